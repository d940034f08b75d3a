/** Files larger than these are refused before they are read, bytes. Apart from the readers, so that a page need not carry them. */
export const JOB_FILE_LIMIT = 4_000_000;
export const RECORD_LIMIT = 40_000_000;
