/** What a person is told who asks: how the work goes, page by page. Short enough to be read with a glove on. */
export interface Topic {
	title: string;
	words: string;
	/** who it is for, where not everybody */
	for?: 'planner' | 'welder' | 'inspector' | 'admin';
}

export const TOPICS: readonly Topic[] = [
	{
		title: 'From a drawing to a signed piece',
		words:
			'Jobs: make a job from a family of pieces or a file. Go down its stages: Job (what must come true), Parts, Fit-up, Hold, Tack, Weld, Order, Forecast. Issue the plan on Forecast. The welder carries it out on Weld-out, reads it on Measure; Learn keeps what it taught; Hand-over signs it.'
	},
	{
		title: 'The first hour of a new shop',
		for: 'planner',
		words:
			'On Jobs, step by step until all of it is done: people, bars and clamps, sheet, a first job, a plan issued, a coupon welded, its lesson kept. “Leave it” puts it away; “First hour” beside the search brings it back.'
	},
	{
		title: 'Propose a plan',
		for: 'planner',
		words:
			'The button under the stages of a job. Each decision comes with what, why, what it brings with its band and what it costs in minutes. Take or leave each; the slider goes from quickest to truest. Nothing changes before “Take over”, and Undo brings the old plan back.'
	},
	{
		title: 'Outside, in doubt, inside, waits',
		words:
			'Each feature has a value and a band that holds 90 %. Inside: the band lies within the limit. In doubt: it crosses it. Outside: the value lies beyond. Waits: a panel is past its limit and only the final shape can say; it is worked out by itself when the plan rests.'
	},
	{
		title: 'The depths of a forecast',
		for: 'planner',
		words:
			'Quick is linear and follows each edit. Final shape knows waves, dishing and weight: seconds. Hot watches each arc for gaps and tacks that open: half a minute and more. Full goes step by step: minutes, in the background. Each says which it is.'
	},
	{
		title: 'Bars, clamps and what they do',
		for: 'planner',
		words:
			'Hold: a bar behind the seam takes heat and is the strongest lever on thin sheet; clamps keep the sheets from folding while it cools; an angle keeps a line straight. Bars come from the register of the Library where there is one that fits. Forecast tells what springs back when they come off.'
	},
	{
		title: 'What counts as done at the bench',
		for: 'welder',
		words:
			'Weld-out shows one step at a time, in large letters. Tap Done when it is done; Undo takes a tap back and both stay in the log. Something else than planned: “Went otherwise”. Taps made without network wait on the tablet and go by themselves.'
	},
	{
		title: 'Waiting between runs',
		for: 'welder',
		words:
			'Where the plan has a wait the clock of the piece says how long, from its own heat. Do not weld sooner because the clock bores you: what is warm pulls harder. Other pieces’ runs that fit in the wait are shown.'
	},
	{
		title: 'A hold point',
		words:
			'Work waits until the person named has signed, on any device. Fit-up: square, plumb, gaps, tacks. Inside: nobody sees it again. Purge: oxygen by a meter, never by putting a head in.'
	},
	{
		title: 'Reading a piece',
		words:
			'Measure: cold and free unless a step asks otherwise. The page says which instrument and where to put it, with numbers on the drawing. Type what the instrument shows, decimal point or comma. A reading that cannot be is asked about, not refused. A reading near a limit is told as in doubt: its own uncertainty counts.'
	},
	{
		title: 'It came out wrong',
		words:
			'Measure, “What may have gone wrong”: causes ranked by how well each explains all readings, with the cheapest reading that would tell. Putting right: planish, press, shim, each with what it should give. What was done and what it gave is kept.'
	},
	{
		title: 'Signing a piece off',
		for: 'inspector',
		words:
			'Hand-over: every feature read cold and unclamped, every problem closed. Outside a limit needs a concession with its reason, or another decision. The signature is of a name with its PIN and cannot be changed.'
	},
	{
		title: 'Coupons and trials',
		for: 'planner',
		words:
			'Coupons, from Learn or Library: a small piece welded to be read. The page says which coupon would narrow the open jobs most for its time. A trial is coupons that differ in one thing; it says how many, in which order, and whether what came is more than chance. A way that won goes into a job’s plan with one tap.'
	},
	{
		title: 'What the shop has learned',
		words:
			'Learned: every lesson with what it did to the factors. One that was wrong is withdrawn and all is worked out again from the raw readings. Bands get narrower with readings and wider where readings disagree.'
	},
	{
		title: 'Learning without metal',
		words:
			'Practice: twelve exercises. Guess first, plan it, see every way move, and what came of it. A planner sets one to somebody; a person with the role learner sees this and nothing else.'
	},
	{
		title: 'People, PINs and roles',
		for: 'admin',
		words:
			'People: planners change plans, welders carry them out, inspectors sign. Five wrong PINs lock a name for two minutes, then longer. An admin gives a new PIN and takes a lock off.'
	},
	{
		title: 'Backups',
		for: 'admin',
		words:
			'One is made each night, and at once from the People page, which says how old the last is. Copy them to another machine: one on the disk that fails is none.'
	},
	{
		title: 'Files in and out',
		words:
			'Job: the job file, with its record if wanted. Parts: blanks as DXF, cutting list as CSV or paper. Fit-up, Hold, Tack, Order: sheets as PDF, strips to lay along a seam. Import on Jobs takes job files, flat patterns (DXF), meshes (STL) and solids (STEP).'
	},
	{
		title: 'Units and numbers',
		words: 'mm or in at the top right, for you alone. Decimal point or comma, both are read. Angles are in degrees, heat in °C.'
	},
	{
		title: 'Safety',
		words:
			'Arc, fumes, hot metal, argon in closed spaces, and metal that springs when it is let go. Your shop’s rules, local codes and whoever answers for its welding come before anything here. A forecast is no procedure.'
	}
];

/** Keys, by where they work. */
export const KEYS: readonly { where: string; keys: readonly [key: string, does: string][] }[] = [
	{
		where: 'Everywhere',
		keys: [
			['? or F1', 'this help'],
			['Tab', 'to the next field; Shift and Tab back'],
			['Ctrl Z', 'undo on a plan; Ctrl Shift Z or Ctrl Y does it again']
		]
	},
	{
		where: 'On the drawing of a piece',
		keys: [
			['Arrows', 'turn it'],
			['+ and −', 'nearer and farther'],
			['F or 0', 'all of it, from the corner'],
			['1 2 3 4', 'from the front, the right, the top, from under'],
			['X', 'see through'],
			['E', 'take apart, and together again'],
			['C', 'cut by a plane'],
			['H, I, A', 'hide the chosen part, only it, all parts'],
			['M', 'measure between the next two places that are clicked'],
			['Delete', 'on Hold and Tack, takes off what is chosen'],
			['Esc', 'lets go of what is dragged, or leaves pointing'],
			['P', 'a picture of it']
		]
	},
	{
		where: 'On a seam’s tape',
		keys: [
			[
				'Arrows',
				'a chosen tack, the end of a run, or on Hold a clamp or the end of a bar, by 1 mm, with Shift by 10; on Order a chosen run in the order'
			],
			['Delete', 'takes a chosen tack out, or a hold-down off']
		]
	}
];
