import { stripSvg } from '$core/formats/seamStrip';
import { seamLetters } from '$core/layout/seamNames';
import { answer } from '$lib/server/api';
import { sheetOf } from '$lib/server/sheet';
import { MissingError } from '$store/jobs';

/** One seam at full size. */
export const GET = (event) =>
	answer(async () => {
		const { plan } = await sheetOf(event, 'Strip');
		const joint = plan.joints.find((j) => j.id === event.params.joint && !j.stock);
		if (!joint) throw new MissingError('This seam');
		return new Response(stripSvg(plan, joint, `${seamLetters(plan.joints).get(joint.id)} ${joint.name}`), {
			headers: { 'content-type': 'image/svg+xml', 'content-disposition': `inline; filename="strip-${joint.id}.svg"` }
		});
	});
