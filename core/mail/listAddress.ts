/** What an address at the list domain is meant for. */
export type ListRecipient =
  | { kind: "list"; list: string }
  | { kind: "leads" | "leave" | "request"; list: string }
  | { kind: "return" | "yes" | "date"; list: string; token: string }
  | { kind: "house"; mailbox: "postmaster" | "abuse" };

/** What a secret in a subaddress is for. */
const KINDS = { b: "return", yes: "yes", date: "date" } as const;
const TOKEN = /^(b|yes|date)\.([a-z0-9]{8,64})$/;

/**
 * Takes the address of an incoming mail apart: the list itself, what is asked of it (`list-request`, RFC 2142, section 6),
 * its subaddresses (RFC 5233, section 4): its leads (`list+leads`), leaving (`list+leave`), a confirmation (`list+yes.TOKEN`), the answer
 * of a calendar program (`list+date.TOKEN`),
 * the return path of one copy (`list+b.TOKEN`); or a mailbox of the house (RFC 2142, sections 2 and 4). A list that is itself
 * named `…-request` comes before; whoever looks lists up sees to it.
 *
 * @returns undefined when the domain is another one or the subaddress is unknown
 */
export function parseListAddress(address: string, listDomain: string): ListRecipient | undefined {
  // The one mailbox that may be written without a domain: RFC 5321, section 4.5.1.
  if (address.toLowerCase() === "postmaster") return { kind: "house", mailbox: "postmaster" };
  const at = address.lastIndexOf("@");
  if (at < 1 || address.slice(at + 1).toLowerCase() !== listDomain.toLowerCase()) return undefined;
  const mailbox = address.slice(0, at).toLowerCase();
  if (mailbox === "postmaster" || mailbox === "abuse") return { kind: "house", mailbox };
  const plus = mailbox.indexOf("+");
  if (plus < 0)
    return mailbox.length > REQUEST.length && mailbox.endsWith(REQUEST)
      ? { kind: "request", list: mailbox.slice(0, -REQUEST.length) }
      : { kind: "list", list: mailbox };
  const list = mailbox.slice(0, plus);
  const detail = mailbox.slice(plus + 1);
  if (detail === "leads" || detail === "leave") return { kind: detail, list };
  const [, kind, token] = TOKEN.exec(detail) ?? [];
  return kind === undefined || token === undefined
    ? undefined
    : { kind: KINDS[kind as keyof typeof KINDS], list, token };
}

export const REQUEST = "-request";
