import type { OrFileFault, Workbook } from "@amigo/core/sheet/sheet";
import type { attachmentOf } from "./attachmentOf";
import type { readMail } from "./readMail";
import type { showMail } from "./showMail";

/**
 * Everything that is opened from outside is opened by one of these, in a process that can be ended. What opens sheets and what
 * opens mail is loaded when the first of them comes, since each takes longer to load than most files take to open.
 */
export const SANDBOX_TASKS = {
  openSheets: async (bytes: Uint8Array): Promise<OrFileFault<{ workbook: Workbook }>> =>
    (await import("@amigo/core/sheet/readWorkbook")).readWorkbook(bytes),
  readMail: async (...asked: Parameters<typeof readMail>) =>
    (await import("./readMail")).readMail(...asked),
  showMail: async (...asked: Parameters<typeof showMail>) =>
    (await import("./showMail")).showMail(...asked),
  attachmentOf: async (...asked: Parameters<typeof attachmentOf>) =>
    (await import("./attachmentOf")).attachmentOf(...asked),
};

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
