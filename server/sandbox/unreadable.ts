/** Thrown where a mail is put together in such a way that no parser can read it: it never will be read, however often it is tried. */
export class Unreadable extends Error {}
