import { benchSheet } from '$lib/server/sheet';

export const GET = benchSheet('fit-up-sheet', 'Fit-up sheet');
