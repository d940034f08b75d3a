import { benchSheet } from '$lib/server/sheet';

export const GET = benchSheet('run-sheet', 'Run sheet');
