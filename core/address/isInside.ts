/** Whether an address is inside the house: in its domain, or in one below it. Both in small letters. */
export function isInside(address: string, domain: string): boolean {
  const foundAddress = address.slice(address.lastIndexOf("@") + 1);
  return foundAddress === domain || foundAddress.endsWith(`.${domain}`);
}
