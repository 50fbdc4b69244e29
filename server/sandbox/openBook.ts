import type { FileFault, Workbook } from "@amigo/core/sheet/sheet";
import { refused, type Refused } from "../refused";
import { sandbox, SandboxEnded } from "./sandbox";
import { t } from "../texts/t";

/** The refusal's type where a file has ended the process that was to open it. */
export const ENDED_READER = "reading/ended-reader";

/**
 * Takes the octets of a file apart into sheets, in a process of its own.
 *
 * @returns its sheets, or what is wrong with the file; `ENDED_READER` where it took more time or memory than a file may
 */
export async function openBook(bytes: Uint8Array): Promise<Workbook | Refused> {
  try {
    const book = await sandbox.run("openSheets", bytes);
    return book.ok ? book.workbook : fileRefused(book.fault);
  } catch (failure) {
    if (!(failure instanceof SandboxEnded)) throw failure;
    return refused(
      422,
      ENDED_READER,
      t("sandbox.thisFileCantBeOpened", { by: failure.by }),
      "file",
    );
  }
}

/** A file that can't be read, as a refusal. */
export function fileRefused(fault: FileFault): Refused {
  return refused(422, `reading/${fault.code}`, fault.sentence, "file");
}
