/** What a new shop does in its first hour, in working order, and what of it is done. */
import type { ShopSoFar } from '$store/firstHour';

export interface FirstStep {
	id: string;
	/** what to do, and what it is good for */
	title: string;
	why: string;
	/** where; `new-job` opens the form for one */
	href: string | 'new-job';
	isDone: boolean;
	/** only an admin can do it */
	forAdmin?: boolean;
}

export function firstHour(shop: ShopSoFar): FirstStep[] {
	return [
		{
			id: 'people',
			title: 'Say who welds and who inspects',
			why: 'The bench wants a welder, and a piece is signed by somebody else than who welded it.',
			href: '/people',
			isDone: shop.welder && shop.inspector,
			forAdmin: true
		},
		{
			id: 'tools',
			title: 'Write down your bars and clamps',
			why: 'Plans then use what is on the wall, and say when there are not enough.',
			href: '/library/registers',
			isDone: shop.tools
		},
		{
			id: 'sheet',
			title: 'Write down the sheet that came in',
			why: 'Its heat number goes with every piece; metals that are not in the list are added on the same page.',
			href: '/library',
			isDone: shop.sheet
		},
		{
			id: 'job',
			title: 'Make a first job',
			why: 'Choose the family by its picture and type the sizes: blanks, seams and a forecast follow at once.',
			href: 'new-job',
			isDone: shop.job
		},
		{
			id: 'issue',
			title: 'Have a plan proposed, and issue it',
			why: 'On the job: “Propose a plan”, take what convinces you, then Forecast and “Issue revision 1”. Now the bench can work it.',
			href: '/jobs',
			isDone: shop.issued
		},
		{
			id: 'coupon',
			title: 'Weld a coupon',
			why: 'Two strips and ten minutes narrow every forecast more than anything else; the page says which one.',
			href: '/coupons',
			isDone: shop.coupon
		},
		{
			id: 'lesson',
			title: 'Keep what it taught',
			why: 'On the coupon’s or the piece’s Learn page: from then on forecasts are this shop’s own.',
			href: '/learned',
			isDone: shop.lesson
		}
	];
}
