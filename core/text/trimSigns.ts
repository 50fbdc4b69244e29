/** A text without the signs of a set at both its ends. Takes time in proportion to the text, whatever stands in it. */
export function trimSigns(text: string, signs: string): string {
  let start = 0;
  let end = text.length;
  while (start < end && signs.includes(text[start] ?? "")) start++;
  while (end > start && signs.includes(text[end - 1] ?? "")) end--;
  return text.slice(start, end);
}
