/**
 * `npm run bar-table`: what a bar leaves of the pull, by the moving-arc model, over the same by the section held flat; and what it leaves of
 * the shrinkage across, by the moving-arc model alone; for the places of core/response/barTable.ts. Printed as the two tables stand there; two minutes on this machine.
 */
import { marchSeam } from '$core/hot/march';
import { arcMetal } from '$core/hot/metal';
import { meanOver, stationsOf } from '$core/hot/results';
import { ORDINARY_ARC, type HotSeam } from '$core/hot/seam';
import { sectionHistory } from '$core/heat/section';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { findMaterial } from '$core/materials/grades';
import { hotMetal } from '$core/materials/hot';
import { CONTACT, HEAT, THICKNESS } from '$core/response/barTable';
import { FREE, layeredStrip } from '$core/response/layeredStrip';

const kernel = kernelFactory(WebAssembly);
const material = findMaterial('1.4301');
const COPPER = { thicknessMm: 10, heatCapacity: 8930e-9 * 385, conductivity: 0.39 };
const [LENGTH, WIDTH, SPEED, HALF] = [150, 100, 2.5, 20];
const AIR = 15e-6;

interface Left {
	force: number;
	across: number;
}

function moving(thicknessMm: number, heat: number, contact: number): Left & { meltMm: number } {
	const seam: HotSeam = {
		lengthMm: LENGTH,
		sheets: [{ widthMm: WIDTH, thicknessMm, metal: arcMetal(material), grips: [] }],
		heat,
		speed: SPEED,
		runs: [{ fromMm: 0, toMm: LENGTH, waitS: 0 }],
		tacks: [2.5, LENGTH - 2.5].map((atMm) => ({ atMm, lengthMm: 6 })),
		welded: [],
		gapMm: 0,
		startC: 20,
		ambientC: 20,
		air: AIR,
		arc: ORDINARY_ARC,
		bar: contact ? { contact, halfWidthMm: HALF, ...COPPER } : undefined,
		mesh: { alongMm: 3, stepS: 0.6, firstMm: 1.5 }
	};
	const m = marchSeam(seam, { kernel });
	const s = stationsOf(m);
	return {
		force: meanOver(s.middles, s.forceN, 0.2 * LENGTH, 0.8 * LENGTH),
		across: meanOver(s.at, s.closingMm, 0.2 * LENGTH, 0.8 * LENGTH),
		meltMm: meanOver(s.at, s.meltMm, 0.3 * LENGTH, 0.7 * LENGTH)
	};
}

function section(thickness: number, netHeat: number, contact: number): Left {
	const metal = hotMetal(material);
	const side = { width: WIDTH, thickness, metal, share: 0.5 };
	const bar = contact
		? { width: 2 * HALF, thickness: COPPER.thicknessMm, conductivity: COPPER.conductivity, rhoC: COPPER.heatCapacity, contact }
		: undefined;
	const h = sectionHistory({ sheets: [side, side], air: AIR, ambientC: 20, netHeat, speed: SPEED, bar });
	const n = h.x.length / 2;
	const r = layeredStrip({
		dy: h.dx.slice(n),
		temperatures: h.temperatures.map((T) => T.slice(n)),
		layers: 1,
		times: h.times,
		arcS: h.arcS,
		speed: SPEED,
		thickness,
		metal,
		model: { id: 'hardening', hardening: arcMetal(material).model.hardening, forgets: true },
		springs: { ...FREE, curvature: Infinity, turn: Infinity }
	});
	return { force: 2 * r.forceN, across: 2 * r.shrinkageMm };
}

const KINDS = ['force', 'across'] as const;

const table = THICKNESS.map((t) =>
	HEAT.map((perThickness) => {
		const heat = perThickness * t;
		const [free, plain] = [moving(t, heat, 0), section(t, heat, 0)];
		const row = CONTACT.map((contact) => {
			const [on, says] = [moving(t, heat, contact), section(t, heat, contact)];
			const factors = [on.force / free.force / (says.force / plain.force), on.across / free.across];
			console.error(
				`${t} mm, ${perThickness} J/mm2, ${(contact * 1e6).toFixed(0)} W/m2K: left ${KINDS.map((k) => `${k} ${(on[k] / free[k]).toFixed(3)} (section ${(says[k] / plain[k]).toFixed(3)})`).join(', ')}, melt ${on.meltMm.toFixed(1)} of ${free.meltMm.toFixed(1)} mm`
			);
			return factors.map((f) => Number(f.toFixed(3)));
		});
		console.error(
			`  without: moving ${(free.force / 1000).toFixed(1)} kN, ${free.across.toFixed(3)} mm; section ${(plain.force / 1000).toFixed(1)} kN, ${plain.across.toFixed(3)} mm`
		);
		return row;
	})
);
KINDS.forEach((k, i) => console.log(k, JSON.stringify(table.map((t) => t.map((q) => q.map((f) => f[i]))))));
