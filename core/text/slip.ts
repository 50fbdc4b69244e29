/**
 * Whether one slip of typing lies between two texts: a sign left out, added, swapped with
 * its neighbour or put in place of another. Equal texts are no slip.
 */
export function isOneSlip(a: string, b: string): boolean {
  if (a === b || Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && start < b.length && a[start] === b[start]) start++;
  let end = 0;
  while (
    end < a.length - start &&
    end < b.length - start &&
    a[a.length - 1 - end] === b[b.length - 1 - end]
  )
    end++;
  const left = a.slice(start, a.length - end);
  const right = b.slice(start, b.length - end);
  if (left.length <= 1 && right.length <= 1) return true;
  return left.length === 2 && right.length === 2 && left[0] === right[1] && left[1] === right[0];
}
