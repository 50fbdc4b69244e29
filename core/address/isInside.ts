/** Whether an address is inside the house: in its domain, or in one below it. Both in small letters. */
export function isInside(address: string, domain: string): boolean {
  const own = address.slice(address.lastIndexOf("@") + 1);
  return own === domain || own.endsWith(`.${domain}`);
}
