import { t } from "../texts/t";

/** What a member's own wish to leave a list by mail comes to: kept off, whatever the sheets say. */
export function leaving(listId: string, address: string) {
  return { listId, address, side: "off" as const, reason: t("posting.leftByMail"), lastDay: "" };
}
