import type { FileFault, Workbook } from "@amigo/core/sheet/sheet";
import { Refusal } from "../http/fault";
import { sandbox, SandboxEnded } from "./sandbox";
import { t } from "../texts/t";

/** The refusal's type where a file has ended the process that was to open it. */
export const ENDED_READER = "reading/ended-reader";

/**
 * Takes the octets of a file apart into sheets, in a process of its own.
 *
 * @throws Refusal 422 with what is wrong with the file; `ENDED_READER` where it took more time or memory than a file may
 */
export async function openBook(bytes: Uint8Array): Promise<Workbook> {
  const book = await sandbox.run("openSheets", bytes).catch((failure: unknown) => {
    throw failure instanceof SandboxEnded
      ? new Refusal(
          422,
          ENDED_READER,
          t("sandbox.thisFileCantBeOpened", { by: failure.by }),
          "file",
        )
      : failure;
  });
  if (!book.ok) throw fileRefusal(book.fault);
  return book.workbook;
}

/** A file that can not be read, as a refusal. */
export function fileRefusal(fault: FileFault): Refusal {
  return new Refusal(422, `reading/${fault.code}`, fault.sentence, "file");
}
