/** What an incoming mail was for one of the addresses that it came to. */
export const MAIL_RESULTS = [
  "goes out",
  "held",
  "returned",
  "refused",
  "discarded",
  "repeated",
  "to the leads",
  "to the coordinators",
  "answered",
  "returned mail",
  "nothing",
] as const;
export type MailResult = (typeof MAIL_RESULTS)[number];
