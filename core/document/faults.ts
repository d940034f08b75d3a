import { Refusal } from '../refusal/refusal';

/** One shape for everything that is wrong with what somebody gave us. */
export interface Fault {
	/** Path to the field, for example `parts[0].thicknessMm`. */
	field: string;
	/** What was given, shortened. */
	value: string;
	/** What is allowed, in words. */
	allowed: string;
}

/** A value as it may be shown in a message: short, on one line. */
export function shown(value: unknown): string {
	if (value === undefined) return 'nothing';
	let text: string;
	try {
		text = typeof value === 'string' ? value : (JSON.stringify(value) ?? String(value));
	} catch {
		text = String(value);
	}
	text = text.replace(/\s+/g, ' ');
	return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

/** Thrown by the one door of a reader: the document is refused whole. */
export class FaultError extends Refusal {
	readonly faults: Fault[];
	constructor(faults: Fault[]) {
		super(faults.map((f) => `${f.field}: ${f.value} given, ${f.allowed}`).join('\n'), faults[0]);
		this.faults = faults;
	}
}
