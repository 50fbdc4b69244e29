/** What an address at the list domain is meant for. */
export type ListRecipient =
  | { kind: "list"; list: string }
  | { kind: "leads"; list: string }
  | { kind: "return"; list: string; token: string }
  | { kind: "house"; mailbox: "postmaster" | "abuse" };

/**
 * Takes the address of an incoming mail apart: the list itself, the return path of one copy
 * (`list+b.TOKEN`, a subaddress as in RFC 5233, section 4), its leads (`list+leads`), or a mailbox of the house (RFC 2142).
 *
 * @returns undefined when the domain is another one or the subaddress is unknown
 */
export function parseListAddress(address: string, listDomain: string): ListRecipient | undefined {
  const at = address.lastIndexOf("@");
  if (at < 1 || address.slice(at + 1).toLowerCase() !== listDomain.toLowerCase()) return undefined;
  const mailbox = address.slice(0, at).toLowerCase();
  if (mailbox === "postmaster" || mailbox === "abuse") return { kind: "house", mailbox };
  const plus = mailbox.indexOf("+");
  if (plus < 0) return { kind: "list", list: mailbox };
  const list = mailbox.slice(0, plus);
  if (mailbox.slice(plus + 1) === "leads") return { kind: "leads", list };
  const token = /^b\.([a-z0-9]{8,64})$/.exec(mailbox.slice(plus + 1))?.[1];
  return token === undefined ? undefined : { kind: "return", list, token };
}
