/**
 * Weld symbols after ISO 2553 (system A; elementary symbols from memory): arrow, reference line, a dashed line beneath for the
 * other side, the symbol, size before it and length behind it, process number in the tail (ISO 4063: TIG 141, MIG 131, MMA 111).
 */
import type { Joint, WeldSettings } from '../document/schema';
import { JOINTS } from '../joints';
import type { ElementarySymbol } from '../joints/joint';

export const PROCESS_NUMBERS: Record<WeldSettings['process'], string> = { TIG: '141', MIG: '131', MMA: '111' };

export interface SymbolParts {
	symbol: ElementarySymbol;
	/** before the symbol: `z3` for a fillet's leg, `s1.5` for penetration that is less than the sheet */
	size: string;
	/** behind the symbol, mm */
	length: string;
	tail: string;
	/** the weld is on the arrow's side: symbol on the full line, else on the dashed one */
	arrowSide: boolean;
	/** all round */
	closed: boolean;
}

export function symbolOf(joint: Joint, lengthMm: number, thicknessMm: number, process: WeldSettings['process'], closed: boolean): SymbolParts {
	const symbol = JOINTS[joint.type].symbol;
	const share = joint.penetration === 'full' ? 1 : joint.penetration === 'partial' ? 0.6 : 0.35;
	const size =
		symbol === 'fillet'
			? joint.weldSizeMm
				? `z${trim(joint.weldSizeMm)}`
				: ''
			: joint.penetration === 'full'
				? ''
				: `s${trim(share * thicknessMm)}`;
	return { symbol, size, length: trim(lengthMm), tail: PROCESS_NUMBERS[process], arrowSide: joint.weldSide === 'front', closed };
}

const trim = (v: number) => String(Math.round(v * 10) / 10);

/** Drawing of each symbol on its line: `y` of the line, 1 above it, -1 below. */
export const SYMBOL_PATHS: Record<ElementarySymbol, (y: number, way: number) => string> = {
	'square-butt': (y, way) => `M58 ${y}v${-9 * way}M63 ${y}v${-9 * way}`,
	fillet: (y, way) => `M56 ${y}v${-10 * way}l10 ${10 * way}z`,
	edge: (y, way) => `M57 ${y}v${-9 * way}M61 ${y}v${-9 * way}M65 ${y}v${-9 * way}`
};

/** The symbol as an SVG of 130 x 44. Text is plain: sizes and numbers only. */
export function symbolSvg(p: SymbolParts): string {
	const line = 22;
	const way = p.arrowSide ? 1 : -1;
	const y = p.arrowSide ? line : line + 5;
	const text = (x: number, words: string, anchor = 'start') =>
		`<text x="${x}" y="${p.arrowSide ? line - 3 : line + 15}" font-size="9" font-family="sans-serif" text-anchor="${anchor}">${words}</text>`;
	return (
		`<svg width="130" height="44" viewBox="0 0 130 44" xmlns="http://www.w3.org/2000/svg"><g fill="none" stroke="#000" stroke-width="1.2">` +
		`<path d="M4 40L24 ${line}H104M4 40l2.5 -6M4 40l6 -2"/><path d="M24 ${line + 5}H104" stroke-dasharray="5 3"/><path d="M104 ${line}l8 -7M104 ${line}l8 7"/>` +
		`<path d="${SYMBOL_PATHS[p.symbol](y, way)}"/>${p.closed ? `<circle cx="24" cy="${line}" r="4"/>` : ''}</g>` +
		`${text(53, p.size, 'end')}${text(69, p.length)}<text x="114" y="${line + 3}" font-size="8" font-family="sans-serif">${p.tail}</text></svg>`
	);
}
