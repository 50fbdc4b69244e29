import { readAddress } from "@amigo/core/address/readAddress";
import { splitAddresses } from "@amigo/core/address/splitAddresses";

/** Addresses in a pasted text, by how they are read. */
export interface Pasted {
  /** Each as it is written. */
  pieces: string[];
  /** Those that can be used, each once. */
  good: string[];
  repaired: { written: string; address: string }[];
  /** What is no address. */
  bad: string[];
}

/** Reads the addresses of a pasted text. */
export function readPasted(text: string): Pasted {
  const { pieces, leftOver } = splitAddresses(text);
  const read = pieces.map((written) => ({ written, reading: readAddress(written, new Map()) }));
  return {
    pieces,
    good: [
      ...new Set(
        read.flatMap(({ reading }) => (reading.answer === "unusable" ? [] : [reading.address])),
      ),
    ],
    repaired: read.flatMap(({ written, reading }) =>
      reading.answer === "probably" ? [{ written, address: reading.address }] : [],
    ),
    bad: [
      ...read.filter(({ reading }) => reading.answer === "unusable").map(({ written }) => written),
      ...leftOver,
    ],
  };
}
