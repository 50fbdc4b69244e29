/** What a calendar file or a fixture list says of a date, as it is written there. */
export interface WrittenEvent {
  title: string;
  text: string;
  place: string;
  link: string;
}

/** Returns what Amigo keeps of it: lines made one, texts cut to what a date holds, and links that lead to the web alone. */
export function eventContent({ title, text, place, link }: WrittenEvent): WrittenEvent {
  const line = (words: string): string => words.replace(/\s+/g, " ").trim().slice(0, 200);
  return {
    title: line(title),
    text: text.slice(0, 4000),
    place: line(place),
    link: /^https?:\/\//.test(link) ? link.slice(0, 1000) : "",
  };
}
