/** The page a newcomer follows names files and lists that are there, and the kinds they hold. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import * as words from '../../core/document/words';
import * as schema from '../../core/document/schema';

const root = path.resolve(import.meta.dirname, '../..');
const page = readFileSync(path.join(root, 'docs/architecture.md'), 'utf8');
const named = [...page.matchAll(/`([^`\s]+)`/g)].map((m) => m[1]);
const isThere = (name: string) => ['', 'core', 'app', 'app/src', 'core/materials'].some((base) => existsSync(path.join(root, base, name)));

describe('docs/architecture.md', () => {
	it('names only files and folders that exist', () => {
		const files = named.filter(
			(n) => (n.includes('/') && /\.(ts|svelte|mjs|cjs|json|md)$/.test(n)) || /^(core|app|src|store|worker|docs|lib|holds|schools)\/.*\/$/.test(n)
		);
		expect(files.length).toBeGreaterThan(40);
		expect(files.filter((f) => !isThere(f))).toEqual([]);
	});
	it('names only lists that exist', () => {
		const lists = named.filter((n) => /^[A-Z]+(_[A-Z]+)+$/.test(n) && n !== 'GROUP_GRADE' && !n.startsWith('SARTA_') && n !== 'MATERIAL_GROUPS');
		expect(lists.length).toBeGreaterThanOrEqual(5);
		expect(lists.filter((l) => !(l in words) && !(l in schema))).toEqual([]);
	});
	it('tells of every folder of core', () => {
		const folders = readdirSync(path.join(root, 'core'), { withFileTypes: true }).flatMap((d) => (d.isDirectory() ? [d.name] : []));
		const tree = page.slice(page.indexOf('core/ '), page.indexOf('store/ '));
		expect(folders.filter((f) => !new RegExp(`\\b${f}\\b`).test(tree))).toEqual([]);
	});
});

/** folders whose index lists one record a file: how many are to be there */
const ROOMS: [folder: string, kinds: number][] = [
	['core/holds', words.HOLD_DOWN_KINDS.length],
	['app/src/lib/hold/kinds', words.HOLD_DOWN_KINDS.length],
	['core/joints', words.JOINT_TYPES.length],
	['core/features', words.FEATURE_KINDS.length],
	['core/schools/tacks', words.TACK_PATTERNS.length],
	['core/schools/tackOrders', words.TACK_ORDERS.length],
	['core/families', words.FAMILIES.length - 1]
];
it.each(ROOMS)('%s: a file for each kind, and the page says how to add one', (folder, kinds) => {
	const index = readFileSync(path.join(root, folder, 'index.ts'), 'utf8');
	const files = [...index.matchAll(/from '\.\/([\w-]+)'/g)]
		.map((m) => m[1])
		.filter((f) => !['kind', 'hold', 'curve', 'joint', 'feature', 'school', 'order', 'family'].includes(f));
	expect(new Set(files).size).toBe(kinds);
	expect(page).toContain(`${folder.replace(/^core\//, '')}/`);
});
