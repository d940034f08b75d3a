import { json } from '@sveltejs/kit';
import { FaultError } from '$core/document/faults';
import { previewOf } from '$core/families/preview';
import { answer, readBody } from '$lib/server/api';
import { PreviewBody } from '$lib/server/dto';

/** What a family would make with these sizes: nothing is kept. */
export const POST = (event) =>
	answer(async () => {
		const { family } = await readBody(event.request, PreviewBody);
		if (family.kind === 'free') throw new FaultError([{ field: 'family.kind', value: family.kind, allowed: 'a family that is made from sizes' }]);
		const { preview, faults } = previewOf(family.kind, family.parameters);
		if (!preview) throw new FaultError(faults);
		return json({ preview });
	});
