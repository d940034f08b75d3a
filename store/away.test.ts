import { describe, expect, it, vi } from 'vitest';
import { isAway, patiently } from './away';

const coded = (code: string) => Object.assign(new Error('x'), { code });

describe('a database that is away', () => {
	it('is known by its codes, however deep they lie, and is not every fault', () => {
		expect([coded('ECONNREFUSED'), coded('57P01'), coded('08006'), new Error('Connection terminated unexpectedly')].every(isAway)).toBe(true);
		expect(isAway(new Error('Failed query', { cause: coded('ECONNRESET') }))).toBe(true);
		expect(isAway(new AggregateError([coded('ECONNREFUSED')]))).toBe(true);
		expect([coded('23505'), coded('42P01'), new Error('no'), undefined, 'text'].some(isAway)).toBe(false);
	});
	it('is waited for as long as said; another fault comes out at once', async () => {
		const back = vi.fn().mockRejectedValueOnce(coded('57P03')).mockRejectedValueOnce(coded('ECONNREFUSED')).mockResolvedValue('here');
		expect(await patiently(back)).toBe('here');
		expect(back).toHaveBeenCalledTimes(3);
		const other = vi.fn().mockRejectedValue(coded('42P01'));
		await expect(patiently(other)).rejects.toThrow();
		expect(other).toHaveBeenCalledTimes(1);
		await expect(patiently(() => Promise.reject(coded('57P01')), 250)).rejects.toThrow();
	});
});
