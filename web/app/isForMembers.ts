/** Whether an address is one of the pages for members, who have no account. */
export function isForMembers(path: string): boolean {
  return path === "/member" || path.startsWith("/member/");
}
