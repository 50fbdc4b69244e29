const KEY = "amigo.wantedThing";
const ID = /^[0-9a-f-]{36}$/i;

/** Remembers what on a shelf somebody wanted to open, until they have opened their page by the mailed link. */
export function wantThing(id: string): void {
  try {
    localStorage.setItem(KEY, id);
  } catch {
    // A browser that keeps nothing opens the page all the same.
  }
}

/** Returns where somebody goes once their page is open: to what they wanted, or to their lists. */
export function takeWanted(): string {
  try {
    const id = localStorage.getItem(KEY) ?? "";
    localStorage.removeItem(KEY);
    return ID.test(id) ? `/member/shelf/${id}` : "/member";
  } catch {
    return "/member";
  }
}
