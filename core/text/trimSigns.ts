/**
 * A text without the signs of a set at its start, and of a set, the same unless another is given, at its end. Takes time in
 * proportion to the text, whatever stands in it.
 */
export function trimSigns(text: string, signs: string, atEnd = signs): string {
  let start = 0;
  let end = text.length;
  while (start < end && signs.includes(text[start] ?? "")) start++;
  while (end > start && atEnd.includes(text[end - 1] ?? "")) end--;
  return text.slice(start, end);
}
