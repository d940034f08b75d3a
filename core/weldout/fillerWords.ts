/** What filler a welder is told: by seam, for a fused seam takes none whatever its settings name. */
import type { Joint, PlanDocument, WeldSettings } from '../document/schema';

export function fillerOf(joint: Pick<Joint, 'filler'>, settings: Pick<WeldSettings, 'fillerGrade' | 'fillerMm'>): string {
	if (!joint.filler) return 'none, fused';
	return settings.fillerGrade ? `${settings.fillerGrade}${settings.fillerMm ? ` ${settings.fillerMm} mm` : ''}` : 'not chosen';
}

/** For settings as a whole: what their seams take, and which of them where they differ. */
export function fillerOfSettings(plan: PlanDocument, settings: WeldSettings): string {
	const used = plan.joints.filter(
		(j) => !j.stock && (j.settings === settings.id || plan.runs.some((r) => r.joint === j.id && r.settings === settings.id))
	);
	const fed = used.filter((j) => j.filler);
	if (!fed.length) return 'no filler, fused';
	const words = `filler ${fillerOf(fed[0], settings)}`;
	return fed.length === used.length ? words : `${words} on ${fed.map((j) => j.name).join(', ')}; the others fused`;
}
