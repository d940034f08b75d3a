/** Every calculator, by what it is about. */
import type { Calculator } from './calculator';
import { NUMBERS } from './numbers';
import { SHAPE } from './shape';
import { SHOP } from './shop';
import { TRIALS } from './trials';

export const CALCULATOR_GROUPS: readonly { name: string; list: readonly Calculator[] }[] = [
	{ name: 'Straight, square, in line', list: SHAPE },
	{ name: 'Numbers', list: NUMBERS },
	{ name: 'Trials', list: TRIALS },
	{ name: 'Heat, gas, bends, weight', list: SHOP }
];
export const CALCULATORS: readonly Calculator[] = CALCULATOR_GROUPS.flatMap((g) => g.list);
