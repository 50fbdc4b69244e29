/** How a file is sent: as what, and whether a browser shows it in its window. */
export interface FileType {
  type: string;
  isShown: boolean;
}

/**
 * What browsers show without running anything of it, by the endings of names. Pages, SVG pictures and all else are only saved, whatever
 * they say they are.
 */
const SHOWN: Readonly<Record<string, string>> = {
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  gif: "image/gif",
  webp: "image/webp",
  txt: "text/plain; charset=utf-8",
  md: "text/plain; charset=utf-8",
  csv: "text/plain; charset=utf-8",
  mp3: "audio/mpeg",
  m4a: "audio/mp4",
  ogg: "audio/ogg",
  wav: "audio/wav",
  flac: "audio/flac",
  mp4: "video/mp4",
  webm: "video/webm",
};

/** Returns how a file is sent, by its name alone: what its writer says of it counts for nothing. */
export function fileType(name: string): FileType {
  const ending = /\.([a-z0-9]{1,5})$/i.exec(name)?.[1]?.toLowerCase() ?? "";
  const type = Object.hasOwn(SHOWN, ending) ? SHOWN[ending] : undefined;
  return type === undefined
    ? { type: "application/octet-stream", isShown: false }
    : { type, isShown: true };
}
