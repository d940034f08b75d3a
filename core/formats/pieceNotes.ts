/**
 * What the lines of a blank cannot say, as text beside them: which part it is, how it is formed and where it stands; each bend's angle;
 * each seam's kind. One note a text, a word and its JSON. With it the blanks of a piece read back to the same piece (formats/ownPiece.ts).
 */
import type { Joint, Part } from '../document/schema';
import type { Vec2 } from '../geometry/vec';

/** A part without what its drawing shows. */
export type PartNote = Omit<Part, 'outline' | 'holes' | 'bends'> & {
	/** the drawing is the blank moved so that this comes to lie on its lower left corner, and stretched by this about it */
	corner: Vec2;
	stretch: Vec2;
	bends: { id: string; angleDeg: number; insideRadiusMm: number }[];
};
/** A seam without its lines; they follow on the seams' layer, side A and side B, wherever their parts are drawn. */
export type JointNote = Omit<Joint, 'a' | 'b'>;
export interface SeamNote {
	joint: string;
	side: 'a' | 'b';
	part: string;
}

export const NOTES = ['PART', 'JOINT', 'SEAM', 'RULE'] as const;
export type NoteWord = (typeof NOTES)[number];

export const noteOf = (word: NoteWord, value: object): string => `${word} ${JSON.stringify(value)}`;

/** @returns nothing where it is not a note of ours, or is damaged */
export function readNote(text: string): { word: NoteWord; value: Record<string, unknown> } | undefined {
	const [, word, json] = /^([A-Z]+) (\{.*\})$/.exec(text.trim()) ?? [];
	if (!NOTES.includes(word as NoteWord)) return undefined;
	try {
		return { word: word as NoteWord, value: JSON.parse(json) as Record<string, unknown> };
	} catch {
		return undefined;
	}
}
