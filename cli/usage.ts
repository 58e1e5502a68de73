/** The command line was used in a way it does not know. */
export class UsageError extends Error {}
/** A file could not be read. */
export class FileError extends Error {}
