/** Field rules shared by every stored document, each with a message that says what is allowed. */
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
	ArrayMaxSize,
	ArrayMinSize,
	IsArray,
	IsBoolean,
	IsIn,
	IsInt,
	IsNumber,
	IsObject,
	IsOptional,
	IsString,
	Matches,
	Max,
	MaxLength,
	Min,
	MinLength,
	ValidateBy,
	ValidateNested,
	type ValidationOptions
} from 'class-validator';

type Decorator = PropertyDecorator;
const all =
	(...decorators: Decorator[]): Decorator =>
	(target, key) =>
		decorators.forEach((d) => d(target, key));

const finite = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);

/** A finite number in a closed range. */
export const Num = (min: number, max: number): Decorator =>
	all(
		IsNumber({ allowNaN: false, allowInfinity: false }, { message: `must be a number from ${min} to ${max}` }),
		Min(min, { message: `must be at least ${min}` }),
		Max(max, { message: `must be at most ${max}` })
	);
/** A whole number in a closed range. */
export const Int = (min: number, max: number): Decorator =>
	all(
		IsInt({ message: `must be a whole number from ${min} to ${max}` }),
		Min(min, { message: `must be at least ${min}` }),
		Max(max, { message: `must be at most ${max}` })
	);
/**
 * What a person may type: any character that can be printed, < and & among them; where it is shown or written it is escaped there.
 * Control characters (NUL, escape) and halves of a character (lone surrogates) are none, and some stores refuse them.
 */
const PRINTABLE = /^[^\p{Cc}\p{Cs}]*$/u;
const PRINTABLE_LINES = /^(?:[\t\n\r]|[^\p{Cc}\p{Cs}])*$/u;
const UNPRINTABLE = 'must be text without control characters (such as NUL) and broken characters';

/** A name a person typed: 1 to `max` characters on one line. */
export const Name = (max = 80): Decorator =>
	all(
		IsString({ message: 'must be text' }),
		MinLength(1, { message: 'must not be empty' }),
		MaxLength(max, { message: `must be at most ${max} characters` }),
		Matches(PRINTABLE, { message: UNPRINTABLE })
	);
/** Longer free text; line breaks allowed. */
export const Note = (max = 2000): Decorator =>
	all(
		IsString({ message: 'must be text' }),
		MaxLength(max, { message: `must be at most ${max} characters` }),
		Matches(PRINTABLE_LINES, { message: UNPRINTABLE })
	);
/** An identifier inside a document. */
export const Id = (): Decorator =>
	all(
		IsString({ message: 'must be text' }),
		Matches(/^[A-Za-z0-9][A-Za-z0-9._-]{0,59}$/, {
			message: 'must be 1 to 60 letters, digits, dots, dashes or underscores, beginning with a letter or digit'
		})
	);
const isDay = (v: unknown): boolean =>
	typeof v === 'string' && /^\d{4}-\d\d-\d\d$/.test(v) && new Date(`${v}T00:00:00Z`).toJSON()?.slice(0, 10) === v;
/** A calendar day, written as ISO 8601 has it. */
export const Day = (): PropertyDecorator =>
	ValidateBy({ name: 'isDay', validator: { validate: isDay, defaultMessage: () => 'must be a day like 2026-05-31' } });

export const OneOf = (values: readonly unknown[]): Decorator => IsIn([...values], { message: `must be one of: ${values.join(', ')}` });
export const Flag = (): Decorator => IsBoolean({ message: 'must be true or false' });
export const Maybe = (): Decorator => IsOptional();

/** A list of nested documents. */
export const ListOf = (type: () => new () => object, max: number, min = 0): Decorator =>
	all(
		IsArray({ message: 'must be a list' }),
		ArrayMinSize(min, { message: `must hold at least ${min}` }),
		ArrayMaxSize(max, { message: `must hold at most ${max}` }),
		IsObject({ each: true, message: 'must be a list of objects' }),
		ValidateNested({ each: true, message: 'must be a list of objects' }),
		Type(type)
	);
/** One nested document; it must be there unless `Maybe` stands beside it. */
export const One = (type: () => new () => object): Decorator =>
	all(IsObject({ message: 'must be an object' }), ValidateNested({ message: 'must be an object' }), Type(type));
/** A list of identifiers. */
export const Ids = (min: number, max: number): Decorator =>
	all(
		IsArray({ message: 'must be a list' }),
		ArrayMinSize(min, { message: `must hold at least ${min}` }),
		ArrayMaxSize(max, { message: `must hold at most ${max}` }),
		IsString({ each: true, message: 'must be a list of names' })
	);

/** The largest coordinate a part may have, mm. */
export const COORDINATE_LIMIT = 20_000;
const isVector = (v: unknown, n: number) => Array.isArray(v) && v.length === n && v.every((x) => finite(x) && Math.abs(x) <= COORDINATE_LIMIT);
const isPath = (v: unknown, min: number, max: number) => Array.isArray(v) && v.length >= min && v.length <= max && v.every((p) => isVector(p, 2));

/** [x, y] mm in a part's layout. */
export const Point2 = (options?: ValidationOptions): Decorator =>
	ValidateBy(
		{
			name: 'isPoint2',
			validator: { validate: (v) => isVector(v, 2), defaultMessage: () => `must be [x, y] in mm, each within ±${COORDINATE_LIMIT}` }
		},
		options
	);
/** [x, y, z] mm, or a direction. */
export const Point3 = (options?: ValidationOptions): Decorator =>
	ValidateBy(
		{
			name: 'isPoint3',
			validator: { validate: (v) => isVector(v, 3), defaultMessage: () => `must be [x, y, z] in mm, each within ±${COORDINATE_LIMIT}` }
		},
		options
	);
/** A list of [x, y] points. */
export const Path = (min: number, max = 2000): Decorator =>
	ValidateBy({
		name: 'isPath',
		constraints: [min, max],
		validator: { validate: (v) => isPath(v, min, max), defaultMessage: () => `must be a list of ${min} to ${max} points [x, y] in mm` }
	});
/** A list of closed rings, each a list of at least three points. */
export const Rings = (max = 200): Decorator =>
	ValidateBy({
		name: 'isRings',
		constraints: [max],
		validator: {
			validate: (v) => Array.isArray(v) && v.length <= max && v.every((r) => isPath(r, 3, 2000)),
			defaultMessage: () => `must be a list of at most ${max} rings of at least 3 points [x, y]`
		}
	});
/** A list of numbers in a range. */
export const Numbers = (most: number, min: number, max: number): Decorator =>
	ValidateBy({
		name: 'isNumbers',
		constraints: [most, min, max],
		validator: {
			validate: (v) => Array.isArray(v) && v.length <= most && v.every((x) => finite(x) && x >= min && x <= max),
			defaultMessage: () => `must be a list of at most ${most} numbers from ${min} to ${max}`
		}
	});
/** Plain parameters of a family: short names to numbers, words or flags. */
export const Parameters = (): Decorator =>
	ValidateBy({
		name: 'isParameters',
		validator: {
			validate: (v) =>
				typeof v === 'object' &&
				v !== null &&
				!Array.isArray(v) &&
				Object.keys(v).length <= 60 &&
				Object.entries(v).every(
					([k, x]) =>
						/^[A-Za-z][A-Za-z0-9]{0,39}$/.test(k) &&
						(finite(x) ||
							typeof x === 'boolean' ||
							(typeof x === 'string' && x.length <= 60) ||
							(Array.isArray(x) && x.length <= 20 && x.every(finite)))
				),
			defaultMessage: () => 'must be an object of numbers, words, flags or short lists of numbers'
		}
	});
