import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { OrFileFault, Workbook } from "@amigo/core/sheet/sheet";
import { attachmentOf } from "./attachmentOf";
import { readMail } from "./readMail";
import { showMail } from "./showMail";
import type { Surroundings } from "./surroundings";

/** Everything that is opened from outside is opened by one of these, in a process that can be ended. */
export const SANDBOX_TASKS = {
  openSheets: (bytes: Uint8Array): OrFileFault<{ workbook: Workbook }> => readWorkbook(bytes),
  readMail,
  showMail,
  attachmentOf,
} satisfies Record<string, (ask: never, surroundings: Surroundings) => unknown>;

export type SandboxTasks = typeof SANDBOX_TASKS;
export type SandboxTask = keyof SandboxTasks;
export type SandboxAsk<Name extends SandboxTask> = Parameters<SandboxTasks[Name]>[0];
export type SandboxAnswer<Name extends SandboxTask> = Awaited<ReturnType<SandboxTasks[Name]>>;

/** How long each task may take, in milliseconds. */
export const SANDBOX_TIME: Record<SandboxTask, number> = {
  openSheets: 90_000,
  readMail: 30_000,
  showMail: 10_000,
  attachmentOf: 10_000,
};
