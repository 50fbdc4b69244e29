/** What a program on somebody's own machine may be given a password for: to send mail, or calendars and address books. */
export const PROGRAM_USES = ["mail", "calendars"] as const;
export type ProgramUse = (typeof PROGRAM_USES)[number];
