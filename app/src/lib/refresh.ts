/** Asking the server anew for what a page shows. */
import { invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

/**
 * A refresh that comes while a tapped link is still loading would cancel it, and the tap would have done nothing: it waits until that page
 * is there.
 * @param what only loads that depend on it; nothing: all
 */
export async function refresh(what?: `sarta:${string}`): Promise<void> {
	// one that fails or is given up for another is over too
	for (let seen; navigating.complete && navigating.complete !== seen;) await (seen = navigating.complete).catch(() => undefined);
	await (what ? invalidate(what) : invalidateAll());
}
