/**
 * What cannot be done as asked, in the planner's words: the one error that a person is shown. Anything else that is thrown is a
 * fault of the program: logged with a reference, never passed off as somebody's mistake.
 */
export class Refusal extends RangeError {
	/** @param about the field, the value given and what is allowed, where one field is to blame */
	constructor(
		message: string,
		readonly about: { field?: string; value?: string; allowed?: string } = {},
		options?: ErrorOptions
	) {
		super(message, options);
	}
}

/** Errors that say what a person should do: refusals, documents refused whole, models that hang together by nothing. */
export const isRefusal = (e: unknown): e is Error =>
	e instanceof Refusal || (e instanceof Error && (e.name === 'FaultError' || e.name === 'SingularError'));
