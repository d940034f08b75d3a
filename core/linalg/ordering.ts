/**
 * Approximate minimum degree on the node graph (quotient graph with element absorption and supervariables).
 * Amestoy, Davis, Duff (1996), SIAM J. Matrix Anal. Appl. 17(4), 886-905.
 */
export interface Graph {
	n: number;
	/** n + 1 */
	ptr: Int32Array;
	/** neighbours without the node itself, sorted */
	ind: Int32Array;
}

/** Node graph of a set of cliques (elements, links). */
export function graphOf(n: number, cliques: Iterable<ArrayLike<number>>): Graph {
	const sets = Array.from({ length: n }, () => new Set<number>());
	for (const c of cliques) for (let i = 0; i < c.length; i++) for (let j = 0; j < c.length; j++) if (c[i] !== c[j]) sets[c[i]].add(c[j]);
	const ptr = new Int32Array(n + 1);
	for (let i = 0; i < n; i++) ptr[i + 1] = ptr[i] + sets[i].size;
	const ind = new Int32Array(ptr[n]);
	for (let i = 0; i < n; i++)
		ind.set(
			[...sets[i]].sort((p, q) => p - q),
			ptr[i]
		);
	return { n, ptr, ind };
}

const VARIABLE = 0;
const ELEMENT = 1;
const DEAD = 2;

/** @returns perm: new index to old index */
// eslint-disable-next-line complexity, max-lines-per-function -- a kernel: its loops share every array
export function minimumDegree({ n, ptr, ind }: Graph): Int32Array {
	const variables: number[][] = []; // neighbouring variables of each variable
	const elements: number[][] = []; // neighbouring elements of each variable
	const members: number[][] = new Array(n); // variables of each element
	const weight = new Int32Array(n).fill(1);
	const degree = new Int32Array(n);
	const state = new Uint8Array(n);
	const mergedInto = new Int32Array(n).fill(-1);
	const head = new Int32Array(n + 1).fill(-1);
	const next = new Int32Array(n).fill(-1);
	const prev = new Int32Array(n).fill(-1);
	const outside = new Int32Array(n); // |Le \ Lp|
	const outsideStamp = new Int32Array(n);
	const mark = new Int32Array(n);
	let stamp = 0;
	const insert = (i: number) => {
		const d = degree[i];
		next[i] = head[d];
		prev[i] = -1;
		if (head[d] >= 0) prev[head[d]] = i;
		head[d] = i;
	};
	const remove = (i: number) => {
		if (prev[i] >= 0) next[prev[i]] = next[i];
		else head[degree[i]] = next[i];
		if (next[i] >= 0) prev[next[i]] = prev[i];
	};
	for (let i = 0; i < n; i++) {
		variables.push(Array.from(ind.subarray(ptr[i], ptr[i + 1])));
		elements.push([]);
		degree[i] = variables[i].length;
		insert(i);
	}
	const pivots: number[] = [];
	let done = 0;
	let lowest = 0;
	while (done < n) {
		while (head[lowest] < 0) lowest++;
		const p = head[lowest];
		remove(p);
		done += weight[p];
		pivots.push(p);
		state[p] = ELEMENT;
		stamp++;
		mark[p] = stamp;
		const front: number[] = [];
		let frontWeight = 0;
		const take = (v: number) => {
			if (state[v] !== VARIABLE || mark[v] === stamp) return;
			mark[v] = stamp;
			front.push(v);
			frontWeight += weight[v];
		};
		variables[p].forEach(take);
		for (const e of elements[p])
			if (state[e] === ELEMENT) {
				members[e].forEach(take);
				state[e] = DEAD;
				members[e] = [];
			}
		members[p] = front;
		variables[p] = elements[p] = [];
		for (const i of front) {
			remove(i);
			for (const e of elements[i]) {
				if (state[e] !== ELEMENT) continue;
				if (outsideStamp[e] !== stamp) {
					const live = members[e].filter((v) => state[v] === VARIABLE);
					members[e] = live;
					outside[e] = live.reduce((sum, v) => sum + weight[v], 0);
					outsideStamp[e] = stamp;
				}
				outside[e] -= weight[i];
			}
		}
		const byHash = new Map<number, number[]>();
		for (const i of front) {
			let d = 0;
			let hash = p;
			elements[i] = elements[i].filter((e) => {
				if (state[e] !== ELEMENT) return false;
				if (outside[e] === 0) {
					state[e] = DEAD; // its variables all lie in the new element
					members[e] = [];
					return false;
				}
				d += outside[e];
				hash += e;
				return true;
			});
			elements[i].push(p);
			variables[i] = variables[i].filter((v) => {
				if (state[v] !== VARIABLE || mark[v] === stamp) return false;
				d += weight[v];
				hash += v;
				return true;
			});
			const rest = frontWeight - weight[i];
			degree[i] = Math.max(0, Math.min(n - done - weight[i], degree[i] + rest, d + rest));
			const bucket = byHash.get(hash);
			if (bucket) bucket.push(i);
			else byHash.set(hash, [i]);
		}
		for (const bucket of byHash.values()) mergeAlike(bucket);
		let kept = 0;
		for (const i of front)
			if (state[i] === VARIABLE) {
				front[kept++] = i;
				insert(i);
				if (degree[i] < lowest) lowest = degree[i];
			}
		front.length = kept;
	}

	/** Variables with the same neighbours become one, and are eliminated together. */
	function mergeAlike(bucket: number[]) {
		for (let x = 0; x < bucket.length; x++) {
			const i = bucket[x];
			if (state[i] !== VARIABLE) continue;
			let same: Set<number> | undefined;
			for (let y = x + 1; y < bucket.length; y++) {
				const j = bucket[y];
				if (state[j] !== VARIABLE || variables[i].length !== variables[j].length || elements[i].length !== elements[j].length) continue;
				same ??= new Set([...variables[i], ...elements[i].map((e) => -1 - e)]);
				if (!variables[j].every((v) => same!.has(v)) || !elements[j].every((e) => same!.has(-1 - e))) continue;
				degree[i] = Math.max(0, degree[i] - weight[j]);
				weight[i] += weight[j];
				state[j] = DEAD;
				mergedInto[j] = i;
				variables[j] = elements[j] = [];
			}
		}
	}

	const children = new Map<number, number[]>();
	for (let j = 0; j < n; j++)
		if (mergedInto[j] >= 0) {
			const list = children.get(mergedInto[j]);
			if (list) list.push(j);
			else children.set(mergedInto[j], [j]);
		}
	const perm = new Int32Array(n);
	let at = 0;
	for (const p of pivots) {
		const stack = [p];
		while (stack.length) {
			const i = stack.pop()!;
			perm[at++] = i;
			const list = children.get(i);
			if (list) for (let k = list.length - 1; k >= 0; k--) stack.push(list[k]);
		}
	}
	return perm;
}
