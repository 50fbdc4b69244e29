import { compress } from "hono/compress";

/** Below this many octets an answer fits into a packet or two as it is. */
const LEAST = 1400;

/**
 * Compresses the API's answers and the pages that the server writes (RFC 9110, section 8.4). Lines that come one by one (events,
 * progress) are not, since each must arrive at once; nor are files, which may be asked for in part.
 */
export const compressAnswers = compress({
  threshold: LEAST,
  contentTypeFilter: /^(application\/(problem\+)?json|text\/html)\b/,
});
