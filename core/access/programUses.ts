/** What a program on somebody's own machine may be given a password for: to send mail, calendars and address books, or shelves as folders. */
export const PROGRAM_USES = ["mail", "calendars", "shelves"] as const;
export type ProgramUse = (typeof PROGRAM_USES)[number];
