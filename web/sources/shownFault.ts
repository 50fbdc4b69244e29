import type { CellMark } from "./SheetRow";

export interface ShownFault extends CellMark {
  written: string;
  fault: string;
  sentence: string;
  why: string;
}
