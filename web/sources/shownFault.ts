import type { CellMark } from "./SheetView";

export interface ShownFault extends CellMark {
  written: string;
  fault: string;
  sentence: string;
  why: string;
}
