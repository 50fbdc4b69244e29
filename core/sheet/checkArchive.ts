import { Unzip, UnzipInflate } from "fflate";
import type { FileFault, FileLimits } from "./sheet";

/**
 * Unpacks a zip archive piece by piece without keeping anything and counts the octets, so that
 * an archive which unpacks to far more than it says never reaches the spreadsheet reader.
 *
 * @returns the names of its entries, or the fault `unpacks-too-far` or `broken-file`
 */
export function checkArchive(
  bytes: Uint8Array,
  limits: FileLimits,
): { ok: true; names: string[] } | { ok: false; fault: FileFault } {
  const names: string[] = [];
  let unpacked = 0;
  let tooFar = false;
  const allowed = Math.min(limits.unpackedBytes, Math.max(bytes.length * 200, 50 * 1024 * 1024));
  const archive = new Unzip((entry) => {
    names.push(entry.name);
    entry.ondata = (failure, chunk) => {
      if (failure) throw failure;
      unpacked += chunk.length;
      if (unpacked > allowed) {
        tooFar = true;
        entry.terminate();
      }
    };
    if (!tooFar) entry.start();
  });
  archive.register(UnzipInflate);
  try {
    const step = 16 * 1024;
    for (let at = 0; at < bytes.length && !tooFar; at += step)
      archive.push(bytes.subarray(at, at + step), at + step >= bytes.length);
  } catch {
    if (!tooFar)
      return {
        ok: false,
        fault: {
          code: "broken-file",
          sentence:
            "This file is damaged: it can't be unpacked. Open it in your spreadsheet program, save it anew and try that.",
        },
      };
  }
  if (tooFar) {
    return {
      ok: false,
      fault: {
        code: "unpacks-too-far",
        sentence:
          "This file unpacks to far more than a spreadsheet of its size would. It was not read. Save the sheet anew from your spreadsheet program, or as CSV.",
      },
    };
  }
  return { ok: true, names };
}
