import { tidyLine } from "../text/tidy";
import type { CellFault } from "./rowRecord";
import type { TableColumn } from "./table";

/** A row while it is read: its cells, where it stands, and what is found wrong with them. */
export class RowInHand {
  constructor(
    readonly cells: readonly string[],
    readonly place: { sheet: string; row: number },
    private readonly faults: CellFault[],
  ) {}

  /** Returns a cell as it is written, line breaks and all. */
  raw(column: TableColumn | undefined): string {
    return this.cells[column?.index ?? -1] ?? "";
  }

  /** Returns a cell as one line without needless spaces. */
  text(column: TableColumn | undefined): string {
    return tidyLine(this.raw(column));
  }

  tell(fault: Omit<CellFault, "sheet" | "row">): void {
    this.faults.push({ ...this.place, ...fault });
  }
}
