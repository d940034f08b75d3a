/** The compiled kernels (kernel.as.ts) as the core sees them. The host passes its WebAssembly in: the core knows of none. */
import { KERNEL_BYTES } from './bytes';
import { Refusal } from '../../refusal/refusal';

type Address = number;

export interface KernelExports {
	multiplyTransposed(
		A: Address,
		lda: number,
		B: Address,
		ldb: number,
		C: Address,
		ldc: number,
		m: number,
		n: number,
		k: number,
		lower: number,
		subtract: number
	): void;
	panel(L: Address, rows: number, width: number, sign: Address, diagonal: Address, floor: number, work: Address): number;
	scatter(count: number, values: Address, target: Address, width: Address, turned: Address, L: Address): void;
	factorise(
		ns: number,
		start: Address,
		rowStart: Address,
		rows: Address,
		panelStart: Address,
		snOf: Address,
		L: Address,
		sign: Address,
		diagonal: Address,
		floor: number,
		position: Address,
		head: Address,
		next: Address,
		offset: Address,
		hasNegative: Address,
		product: Address,
		signed: Address
	): number;
	forward4(ns: number, start: Address, rowStart: Address, rows: Address, panelStart: Address, L: Address, X: Address, touched: Address): void;
	backward4(ns: number, start: Address, rowStart: Address, rows: Address, panelStart: Address, L: Address, sign: Address, X: Address): void;
	forwardLeading4(L: Address, n: number, from: number, m: number, X: Address): void;
	backwardLeading4(L: Address, n: number, m: number, X: Address): void;
	bandFactor(A: Address, n: number, b: number, work: Address): number;
	bandSolve(A: Address, n: number, b: number, X: Address): void;
}

/** What the core needs of the host's WebAssembly. */
export interface WasmHost {
	Module: new (bytes: Uint8Array<ArrayBuffer>) => object;
	Instance: new (module: never, imports: never) => { exports: object };
	Memory: new (size: { initial: number; maximum?: number }) => { readonly buffer: ArrayBuffer; grow(pages: number): number };
}

const PAGE = 65_536;
/** first page: the kernels' own constants */
const FIRST_FREE = PAGE;
/** 4 GB is what 32-bit addresses reach; a page is left so that no end is 2^32 */
const MOST_PAGES = 65_535;

/** One instance with memory of its own: laid out once, views taken anew whenever it has grown. */
export class Kernel {
	private top = FIRST_FREE;

	constructor(
		readonly run: KernelExports,
		private readonly memory: InstanceType<WasmHost['Memory']>
	) {}

	get bytes() {
		return this.memory.buffer.byteLength;
	}
	/** @throws RangeError when the memory cannot be had */
	reserve(bytes: number): Address {
		const address = this.top;
		const top = Math.ceil((address + bytes) / 64) * 64;
		const more = Math.ceil((top - this.bytes) / PAGE);
		if (top > MOST_PAGES * PAGE) throw new Refusal(`The model needs ${(top / 1e9).toFixed(1)} GB of working memory; 4.3 GB is the limit`);
		if (more > 0) this.memory.grow(more);
		this.top = top;
		return address;
	}
	/** gives back everything reserved after `address` */
	release(address: Address) {
		this.top = address;
	}
	f64 = (at: Address, count: number) => new Float64Array(this.memory.buffer, at, count);
	i32 = (at: Address, count: number) => new Int32Array(this.memory.buffer, at, count);
	u8 = (at: Address, count: number) => new Uint8Array(this.memory.buffer, at, count);
	putInt(v: Int32Array): Address {
		const at = this.reserve(4 * v.length);
		this.i32(at, v.length).set(v);
		return at;
	}
	putNumbers(v: Float64Array): Address {
		const at = this.reserve(8 * v.length);
		this.f64(at, v.length).set(v);
		return at;
	}
}

export type KernelFactory = () => Kernel;

/** @param wasm the host's `WebAssembly` */
export function kernelFactory(wasm: WasmHost): KernelFactory {
	const module = new wasm.Module(fromBase64(KERNEL_BYTES));
	return () => {
		const memory = new wasm.Memory({ initial: 2, maximum: MOST_PAGES });
		const instance = new wasm.Instance(module as never, { env: { memory } } as never);
		return new Kernel(instance.exports as KernelExports, memory);
	};
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** The core has neither atob nor Buffer. */
function fromBase64(text: string): Uint8Array<ArrayBuffer> {
	const end = text.indexOf('=') < 0 ? text.length : text.indexOf('=');
	const out = new Uint8Array(Math.floor((end * 3) / 4));
	let [bits, held, at] = [0, 0, 0];
	for (let i = 0; i < end; i++) {
		bits = (bits << 6) | ALPHABET.indexOf(text[i]);
		held += 6;
		if (held >= 8) {
			held -= 8;
			out[at++] = (bits >> held) & 255;
		}
	}
	return out;
}
