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

/** Errors that say what a person should do: a document refused whole and a model that hangs together by nothing are refusals too. */
export const isRefusal = (e: unknown): e is Refusal => e instanceof Refusal;
