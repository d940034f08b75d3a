export const load = ({ locals }) => ({ person: locals.person ?? null });
