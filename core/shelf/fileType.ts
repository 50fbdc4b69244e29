/** How a browser shows a file in its window; empty where it only saves it. */
export type ShownAs = "" | "page" | "text" | "picture" | "sound" | "film";

/** How a file is sent: as what, and how it is shown. */
export interface FileType {
  type: string;
  shownAs: ShownAs;
}

const TEXT: FileType = { type: "text/plain; charset=utf-8", shownAs: "text" };
const picture = (type: string): FileType => ({ type: `image/${type}`, shownAs: "picture" });
const sound = (type: string): FileType => ({ type: `audio/${type}`, shownAs: "sound" });
const film = (type: string): FileType => ({ type: `video/${type}`, shownAs: "film" });

/**
 * What browsers show without running anything of it, by the endings of names. Pages of HTML, SVG pictures and all else are only
 * saved, whatever they say they are.
 */
const SHOWN: Readonly<Record<string, FileType>> = {
  png: picture("png"),
  jpg: picture("jpeg"),
  jpeg: picture("jpeg"),
  gif: picture("gif"),
  webp: picture("webp"),
  txt: TEXT,
  md: TEXT,
  csv: TEXT,
  mp3: sound("mpeg"),
  m4a: sound("mp4"),
  ogg: sound("ogg"),
  wav: sound("wav"),
  flac: sound("flac"),
  mp4: film("mp4"),
  webm: film("webm"),
  pdf: { type: "application/pdf", shownAs: "page" },
};

/** Returns how a file is sent, by its name alone: what its writer says of it counts for nothing. */
export function fileType(name: string): FileType {
  const ending = /\.([a-z0-9]{1,5})$/i.exec(name)?.[1]?.toLowerCase() ?? "";
  const known = Object.hasOwn(SHOWN, ending) ? SHOWN[ending] : undefined;
  return known ?? { type: "application/octet-stream", shownAs: "" };
}
