/** A file that is not to be opened, and why, in words for whoever started the program. */
export class WrongDatabase extends Error {}
