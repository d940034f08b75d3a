import { error } from '@sveltejs/kit';
import { CALCULATORS } from '$core/calculators';

export const load = ({ params }) => {
	if (params.calc && !CALCULATORS.some((c) => c.id === params.calc)) error(404, 'There is no such calculator: choose one from the list');
	return { calc: params.calc };
};
