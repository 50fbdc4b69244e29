import { useEffect, useRef, useState } from "react";
import {
  getMemberUpload,
  getUpload,
  postMemberUpload,
  postUpload,
  putMemberPiece,
  putPiece,
} from "@amigo/contract/uploads";
import { api, type Fault } from "./api";
import { sends } from "./request";
import { useStore } from "./store";

type Dispatch = ReturnType<typeof useStore>;

/** Who sends a file: an account, or a member on their page. */
export type Sender = "account" | "member";

const MB = 1024 * 1024;
/** Files of up to this size go in one request. */
const IN_ONE = MB;
const LARGEST_PIECE = 32 * MB;
/** A piece that goes as quickly as this, in milliseconds, is followed by one of twice its size. */
const QUICK = 1500;
/** How often a piece is sent again, each time after twice the wait. */
const TRIES = 8;

const { endpoints } = api.injectEndpoints({
  endpoints: (build) => {
    const sizeOf = (size: number) => ({ body: { size } });
    const find = (id: string) => ({ params: { id } });
    const piece = ({ id, at, body }: { id: string; at: number; body: Blob }) => ({
      ...{ params: { id }, query: { at }, body },
    });
    return {
      beginUpload: sends(build, postUpload, { of: sizeOf }),
      findUpload: sends(build, getUpload, { of: find }),
      addPiece: sends(build, putPiece, { of: piece }),
      beginMemberUpload: sends(build, postMemberUpload, { of: sizeOf }),
      findMemberUpload: sends(build, getMemberUpload, { of: find }),
      addMemberPiece: sends(build, putMemberPiece, { of: piece }),
    };
  },
});

const OF = {
  account: {
    begin: endpoints.beginUpload,
    find: endpoints.findUpload,
    add: endpoints.addPiece,
  },
  member: {
    begin: endpoints.beginMemberUpload,
    find: endpoints.findMemberUpload,
    add: endpoints.addMemberPiece,
  },
} as const;

interface Received {
  id: string;
  received: number;
}
interface Progress {
  /** Told how much of the file has come, between 0 and 1. */
  tell: (share: number) => void;
  signal: AbortSignal;
}

/**
 * Sends a file piece by piece, and returns the id under which it has come. A piece that doesn't arrive is sent again, from where the
 * server says that it is; the same file that is chosen again after the page was closed goes on where it was.
 *
 * @throws the fault, where it can't be sent
 */
async function sendPieces(
  dispatch: Dispatch,
  sender: Sender,
  file: File,
  { tell, signal }: Progress,
): Promise<string> {
  const key = `amigo.upload ${sender} ${file.name} ${file.size} ${file.lastModified}`;
  let { id, received } = await beginOrGoOn(dispatch, sender, file, key);
  let [size, tries] = [MB, 0];
  while (received < file.size) {
    if (signal.aborted) throw stopped();
    const began = performance.now();
    const sent = dispatch(
      OF[sender].add.initiate({ id, at: received, body: file.slice(received, received + size) }),
    );
    const stop = (): void => sent.abort();
    signal.addEventListener("abort", stop);
    const { data, error } = await sent;
    signal.removeEventListener("abort", stop);
    if (data !== undefined) {
      received = data.received;
      tries = 0;
      if (performance.now() - began < QUICK) size = Math.min(size * 2, LARGEST_PIECE);
    } else {
      const fault = error as Fault;
      if (signal.aborted || !canGoOn(fault) || ++tries > TRIES) throw fault;
      size = MB;
      if (fault.status !== 409) await pause(1000 * 2 ** (tries - 1), signal);
      ({ id, received } = (await dispatch(OF[sender].find.initiate(id))).data ?? { id, received });
    }
    tell(received / file.size);
  }
  remember(key, undefined);
  return id;
}

async function beginOrGoOn(
  dispatch: Dispatch,
  sender: Sender,
  file: File,
  key: string,
): Promise<Received> {
  const known = remembered(key);
  const there =
    known === undefined ? undefined : (await dispatch(OF[sender].find.initiate(known))).data;
  if (there !== undefined) return there;
  const { data, error } = await dispatch(OF[sender].begin.initiate(file.size));
  if (data === undefined) throw error as Fault;
  remember(key, data.id);
  return data;
}

/** The id under which a file began to come before, in this browser. */
function remembered(key: string): string | undefined {
  try {
    return localStorage.getItem(key) ?? undefined;
  } catch {
    return undefined;
  }
}

function remember(key: string, id: string | undefined): void {
  try {
    if (id === undefined) localStorage.removeItem(key);
    else localStorage.setItem(key, id);
  } catch {
    // A browser that keeps nothing begins the file anew the next time.
  }
}

/** Whether what went wrong may go well the next time: no connection, a server that begins again, or another place to go on. */
function canGoOn({ status, type }: Fault): boolean {
  return type === "offline" || status >= 500 || type === "upload/elsewhere";
}

function stopped(): Fault {
  return { status: 0, type: "stopped", detail: "", field: undefined };
}

function pause(time: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const timer = setTimeout(resolve, time);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      resolve();
    });
  });
}

/** A file on its way: how much of it has come, between 0 and 1. */
export interface FileUnderWay {
  name: string;
  share: number;
  stop: () => void;
}

/**
 * Sends files one after the other, each with what is done once it has come.
 *
 * @param put is given a file and the id under which its pieces have come; none for a small one, which goes with the request itself
 */
export function useSendFiles(
  sender: Sender,
  put: (file: File, upload: string | undefined) => Promise<{ error?: unknown }>,
) {
  const dispatch = useStore();
  const [underWay, setUnderWay] = useState<FileUnderWay>();
  const [error, setError] = useState<unknown>();
  const isSending = underWay !== undefined;
  // Another place in Amigo stops nothing; to leave it altogether would, so the browser asks.
  useEffect(() => {
    if (!isSending) return;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [isSending]);
  const turn = useRef(Promise.resolve());
  const sendInTurn = async (files: readonly File[]): Promise<void> => {
    setError(undefined);
    for (const file of files) {
      const controller = new AbortController();
      const tell = (share: number): void =>
        setUnderWay({ name: file.name, share, stop: () => controller.abort() });
      tell(0);
      try {
        const progress = { tell, signal: controller.signal };
        const upload =
          file.size <= IN_ONE ? undefined : await sendPieces(dispatch, sender, file, progress);
        const { error: fault } = await put(file, upload);
        if (fault !== undefined) throw fault;
      } catch (fault) {
        if ((fault as Fault).type !== "stopped") setError(fault);
      }
      setUnderWay(undefined);
    }
  };
  // Files that are chosen while others are on their way come after them.
  const sendAll = (files: readonly File[]): Promise<void> =>
    (turn.current = turn.current.then(() => sendInTurn(files)));
  return { sendAll, underWay, error, isSending };
}
