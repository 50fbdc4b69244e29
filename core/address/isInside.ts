/** Whether an address is inside the house: in one of its domains, or in one below it. All in small letters. */
export function isInside(address: string, domains: readonly string[]): boolean {
  const found = address.slice(address.lastIndexOf("@") + 1);
  return domains.some((domain) => found === domain || found.endsWith(`.${domain}`));
}
