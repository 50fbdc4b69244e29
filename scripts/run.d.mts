/** Returns the file of a program that `bundle.mjs` has made. */
export function bundleOf(program: string): string;
