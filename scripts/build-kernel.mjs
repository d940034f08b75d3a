// Compiles core/linalg/kernel/kernel.as.ts with AssemblyScript and writes the bytes into bytes.ts (base64).
// `--check` only compares: bin/test runs it, so that the committed bytes are those of the committed source.
import { readFileSync, writeFileSync } from 'node:fs';
import asc from 'assemblyscript/asc';

const SOURCE = 'core/linalg/kernel/kernel.as.ts';
const TARGET = 'core/linalg/kernel/bytes.ts';
let binary;
const { error, stderr } = await asc.main(
	[
		'kernel.ts',
		'-o',
		'kernel.wasm',
		'--runtime',
		'stub',
		'--enable',
		'simd',
		'-O3',
		'--noAssert',
		'--importMemory',
		'--initialMemory',
		'1',
		'--use',
		'abort='
	],
	{
		readFile: (name) => (name === 'kernel.ts' ? readFileSync(SOURCE, 'utf8') : null),
		writeFile: (name, data) => name.endsWith('.wasm') && (binary = data),
		listFiles: () => []
	}
);
if (error || !binary) {
	console.error(String(stderr), error?.message ?? 'no output');
	process.exit(1);
}
const text = `/** Made from kernel.as.ts by scripts/build-kernel.mjs: do not edit. ${binary.length} bytes, base64. */\nexport const KERNEL_BYTES =\n\t'${Buffer.from(binary).toString('base64')}';\n`;
if (process.argv.includes('--check')) {
	if (readFileSync(TARGET, 'utf8') !== text) {
		console.error(`${TARGET} is not what ${SOURCE} compiles to: run node scripts/build-kernel.mjs`);
		process.exit(1);
	}
} else writeFileSync(TARGET, text);
console.log(`kernel ${binary.length} bytes`);
