import { benchSheet } from '$lib/server/sheet';

export const GET = benchSheet('hold-sheet', 'Hold sheet');
