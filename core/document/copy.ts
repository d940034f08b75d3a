/** A deep copy of plain data: documents hold nothing else. */
export const copyOf = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;
