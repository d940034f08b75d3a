import { describe, expect, it } from 'vitest';
import { isAtThisMachine } from './session';

describe('whether somebody sits at this machine', () => {
	it.each([
		['127.0.0.1', undefined, true],
		['::ffff:127.0.0.1', 'http://127.0.0.1:4173', true],
		['::1', 'http://localhost:4173', true],
		['192.168.1.7', undefined, false],
		['127.0.0.1', 'https://tanks.example', false],
		['127.0.0.1.example', undefined, false]
	])('%s, known as %s: %s', (address, origin, isHere) => {
		expect(isAtThisMachine(address, origin)).toBe(isHere);
	});
});
