/** The closed vocabularies of a plan. Documents, interface and validation read the same lists. */
export const JOINT_TYPES = ['butt', 'corner-edge', 'corner-overlap', 'lap', 'tee', 'flange-to-tube', 'port'] as const;
export type JointType = (typeof JOINT_TYPES)[number];

export const PENETRATIONS = ['full', 'partial', 'sealing'] as const;
export type Penetration = (typeof PENETRATIONS)[number];

export const WELD_SIDES = ['front', 'back'] as const;
export type WeldSide = (typeof WELD_SIDES)[number];

/** How the piece lies while it is welded or measured. */
export const POSTURES = ['flat-on-bench', 'three-points', 'upright'] as const;
export type Posture = (typeof POSTURES)[number];

/** When a measurement is taken. */
export const MOMENTS = ['as-tacked', 'cold', 'unclamped'] as const;
export type Moment = (typeof MOMENTS)[number];
/** When a piece may be read: also where no forecast speaks of it. */
export const READ_MOMENTS = ['as-received', 'as-tacked', 'after-run', 'cold', 'unclamped', 'corrected'] as const;
export type ReadMoment = (typeof READ_MOMENTS)[number];
export const isForecast = (m: ReadMoment): m is Moment => (MOMENTS as readonly string[]).includes(m);

/** Lines of the bench log. */
export const EVENT_KINDS = [
	'started',
	'step-done',
	'step-problem',
	'note',
	'wait-started',
	'paused',
	'resumed',
	'finished',
	'problem-closed',
	'undone',
	'step-skipped',
	'step-taken',
	'laid',
	'happened',
	'hold-signed',
	'hold-released',
	'replanned'
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];
export const EVENT_WORDS: Record<EventKind, string> = {
	started: 'start of the piece',
	'step-done': 'a step done',
	'step-problem': 'a problem',
	note: 'a note',
	'wait-started': 'a wait begun',
	paused: 'a pause',
	resumed: 'going on',
	finished: 'the end',
	'problem-closed': 'a problem closed',
	undone: 'a tap taken back',
	'step-skipped': 'a step left for later',
	'step-taken': 'a step taken next',
	laid: 'part of a run',
	happened: 'something otherwise',
	'hold-signed': 'a hold signed',
	'hold-released': 'a hold released',
	replanned: 'planned on from here'
};

/** Where work waits until somebody has signed, and what is looked at there. */
export const HOLD_POINT_KINDS = ['fit-up', 'inside', 'purge', 'datum', 'witness'] as const;
export type HoldPointKind = (typeof HOLD_POINT_KINDS)[number];
/** Moments of the work at which it may wait: tacked and looked at; before something is shut in; swept; welded, cold and let go. */
export const HOLD_POINT_MOMENTS = ['tacked', 'closing', 'swept', 'end'] as const;
export type HoldPointMoment = (typeof HOLD_POINT_MOMENTS)[number];
export const HOLD_POINT_MOMENT_WORDS: Record<HoldPointMoment, string> = {
	tacked: 'when tacked',
	closing: 'before closing',
	swept: 'purge swept',
	end: 'at the end'
};
/** Who may be asked to sign. */
export const SIGNERS = ['inspector', 'planner', 'welder'] as const;
export type Signer = (typeof SIGNERS)[number];
/** Who may take over another way on for a piece that is half welded. */
export const REPLANNERS = ['planner', 'welder'] as const;
export type Replanner = (typeof REPLANNERS)[number];
export const SIGNER_WORDS: Record<Signer, string> = { inspector: 'an inspector', planner: 'a planner', welder: 'a welder' };

export const CONTACTS = ['tight', 'fair', 'loose'] as const;
export type Contact = (typeof CONTACTS)[number];

/** How the piece is cooled in the wait before a run. Forced cooling on one spot is for austenitic grades only. */
export const COOLINGS = ['still', 'fan', 'local'] as const;
export type Cooling = (typeof COOLINGS)[number];

export const HOLD_DOWN_KINDS = ['bar', 'clamp', 'jig', 'support', 'table-tack', 'weight', 'brace', 'strongback', 'holding-table', 'bolts'] as const;
export type HoldDownKind = (typeof HOLD_DOWN_KINDS)[number];

/** What can be put on a piece beside what its family makes. */
export const ADDITION_KINDS = ['stiffener', 'bracket', 'port', 'patch', 'cross-break'] as const;
export type AdditionKind = (typeof ADDITION_KINDS)[number];

export const BAR_METALS = ['copper', 'aluminium', 'brass', 'own'] as const;

/** What keeps air off the root. */
export const ROOT_CARE = ['none', 'bar', 'purge', 'both'] as const;
export type RootCare = (typeof ROOT_CARE)[number];
export const TACK_PATTERNS = ['two-stage', 'corners-and-middles', 'long-tacks', 'stitch', 'alternate-sides'] as const;
export type TackPattern = (typeof TACK_PATTERNS)[number];

export const TACK_ORDERS = ['from-true-corner', 'curve-first', 'one-plane-first', 'opposite-ends', 'bisection'] as const;
export type TackOrder = (typeof TACK_ORDERS)[number];

export const FEATURE_KINDS = ['flatness', 'straightness', 'length', 'squareness', 'angle', 'twist'] as const;
export type FeatureKind = (typeof FEATURE_KINDS)[number];

/** What kinds of feature are called. */
export const FEATURE_WORDS: Record<FeatureKind, string> = {
	flatness: 'flatness',
	straightness: 'straightness',
	length: 'length',
	squareness: 'squareness',
	angle: 'angle',
	twist: 'twist'
};

/** Which way the current goes, told of the electrode. */
export const POLARITIES = ['DC-', 'DC+', 'AC'] as const;
export type Polarity = (typeof POLARITIES)[number];
export const POLARITY_WORDS: Record<Polarity, string> = { 'DC-': 'DC, electrode negative', 'DC+': 'DC, electrode positive', AC: 'AC' };

/** Which faces a tape lies between at its two ends. */
export const TAPE_OVER = ['outside', 'inside', 'same-side'] as const;
export type TapeOver = (typeof TAPE_OVER)[number];
export const TAPE_WORDS: Record<TapeOver, string> = {
	outside: 'outside to outside',
	inside: 'inside to inside',
	'same-side': 'same side to same side'
};

export const FILM_SIDES = ['none', 'front', 'back', 'both'] as const;
export type FilmSide = (typeof FILM_SIDES)[number];

export const FAMILIES = [
	'open-trough',
	'enclosure',
	'butt-panel',
	'lap-panel',
	'corner-panel',
	'patched-panel',
	'stiffened-plate',
	'cylinder',
	'collar',
	'manifold',
	'mitred-frame',
	'free'
] as const;
export type FamilyKind = (typeof FAMILIES)[number];

export const POSTURE_WORDS: Record<Posture, string> = {
	'flat-on-bench': 'flat on the bench',
	'three-points': 'on three points',
	upright: 'upright'
};
export const COOLING_WORDS: Record<Cooling, string> = { still: 'by itself', fan: 'fan on the piece', local: 'local forced cooling' };
export const MOMENT_WORDS: Record<ReadMoment, string> = {
	'as-received': 'as received',
	'as-tacked': 'as tacked',
	'after-run': 'after a run',
	cold: 'cold',
	unclamped: 'unclamped',
	corrected: 'after putting right'
};
export const PIECE_WORDS = { waiting: 'waiting', 'in-hand': 'at the bench', welded: 'welded', 'handed-over': 'handed over' } as const;

/** May who has tacked or welded on a piece sign it as its inspector? */
export const INSPECTOR_MAY_WELD = ['alone', 'always', 'never'] as const;
export type InspectorMayWeld = (typeof INSPECTOR_MAY_WELD)[number];
export const INSPECTOR_MAY_WELD_WORDS: Record<InspectorMayWeld, string> = { alone: 'only in a shop of one', always: 'yes', never: 'no' };

/** What measures at the bench and sends by itself. */
export const DEVICE_KINDS = ['probe', 'arc', 'gauge', 'oxygen', 'switch'] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];

/** What the shop writes down of its things. */
export const REGISTER_KINDS = ['bar', 'strongback', 'clamp', 'instrument', 'source', 'tungsten', 'cup', 'filler', 'product'] as const;
export type RegisterKind = (typeof REGISTER_KINDS)[number];
