import { redirect } from '@sveltejs/kit';
import { isLearnerOnly } from '$lib/people/roles';

export const load = ({ locals }) => redirect(303, locals.person && isLearnerOnly(locals.person.roles) ? '/practice' : '/jobs');
