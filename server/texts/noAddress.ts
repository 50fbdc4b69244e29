import { t } from "./t";
import type { AddressReading } from "@amigo/core/address/addressReading";

/** Returns the sentence that refuses what was written for an address, with the address that was probably meant. */
export function noAddress(written: string, read: AddressReading): string {
  return t("shared.isNoAddress", {
    written: written.slice(0, 100),
    meant: read.answer === "unusable" ? null : read.address,
    why: read.answer === "clean" ? "" : read.why,
  });
}
