import { benchSheet } from '$lib/server/sheet';

export const GET = benchSheet('marks-sheet', 'Marks sheet');
