import { FAMILY_DEFAULTS, MADE_FAMILIES } from '$core/families';
import { drawingSvg } from '$core/draw/svg';
import { previewOf } from '$core/families/preview';
import { answer } from '$lib/server/api';
import { MissingError } from '$store/jobs';

const drawn = new Map<string, string>();
/** A family as it comes, to be chosen by. */
export const GET = (event) =>
	answer(async () => {
		const kind = MADE_FAMILIES.find((k) => k === event.params.kind);
		if (!kind) throw new MissingError('This family');
		let svg = drawn.get(kind);
		if (!svg) drawn.set(kind, (svg = drawingSvg(previewOf(kind, FAMILY_DEFAULTS[kind]).preview!.drawing, {}, 120, 84)));
		return new Response(svg, { headers: { 'content-type': 'image/svg+xml', 'cache-control': 'private, max-age=86400' } });
	});
