import { useCallback, useEffect, useRef, useState } from "react";
import { useLocation, useSearchParams } from "react-router";
import type { DraftContent, DraftFile } from "@amigo/contract/drafts";
import { useKeepDraftMutation, useLazyDraftQuery } from "../data/drafts";

/** How many milliseconds its writer has to rest before a draft is stored. */
const RESTS = 700;
const EMPTY: DraftContent = {
  to: [],
  cc: [],
  bcc: [],
  leftOut: [],
  answers: null,
  subject: "",
  html: "",
  language: "",
  versions: [],
  as: "oneself",
  copyToMe: false,
  shown: false,
};

export interface OwnDraft {
  id: string;
  content: DraftContent;
  change: (part: Partial<DraftContent>) => void;
  files: readonly DraftFile[];
  setFiles: (change: (files: readonly DraftFile[]) => readonly DraftFile[]) => void;
  /** Keeps what has not been kept yet; returns whether it is kept now. */
  keep: () => Promise<boolean>;
  state: "empty" | "writing" | "kept" | "fetching" | "failed";
  error: unknown;
  fault: string;
  sendAt: string | null;
}

/** The draft that the address of the page names, or a new one; kept by itself as one writes. */
export function useDraft(): OwnDraft {
  const { pathname } = useLocation();
  const [search, setSearch] = useSearchParams();
  const named = search.get("draft");
  const [id] = useState(() => named ?? crypto.randomUUID());
  const [content, setContent] = useState<DraftContent>(EMPTY);
  const [files, setFiles] = useState<readonly DraftFile[]>([]);
  const [told, setTold] = useState({ fault: "", sendAt: null as string | null });
  const [state, setState] = useState<OwnDraft["state"]>(named === null ? "empty" : "fetching");
  const [fetchDraft, { error: fetchError }] = useLazyDraftQuery();
  const [keepDraft, { error: keepError }] = useKeepDraftMutation();
  const latest = useRef({ content, dirty: false });
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, []);
  useEffect(() => {
    if (named === null) return;
    void fetchDraft(named).then(({ data }) => {
      if (data === undefined) {
        setState("failed");
        return;
      }
      latest.current = { content: data.content, dirty: false };
      setContent(data.content);
      setFiles(data.files);
      setTold({ fault: data.fault, sendAt: data.sendAt });
      setState("kept");
    });
    // Only what stood in the address when the page was opened is fetched.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const keep = useCallback(async (): Promise<boolean> => {
    if (!latest.current.dirty) return true;
    const foundContent = latest.current.content;
    const { data } = await keepDraft({ id, content: foundContent });
    if (data === undefined) {
      setState("failed");
      return false;
    }
    if (latest.current.content === foundContent) {
      latest.current.dirty = false;
      setState("kept");
    }
    // Who has left the page meanwhile, or is just leaving it, is not brought back to it.
    if (isHere.current && window.location.pathname === pathname)
      setSearch({ draft: id }, { replace: true });
    return true;
  }, [id, keepDraft, pathname, setSearch]);
  const change = useCallback((part: Partial<DraftContent>): void => {
    latest.current = { content: { ...latest.current.content, ...part }, dirty: true };
    setContent(latest.current.content);
    setState("writing");
  }, []);
  useEffect(() => {
    if (state !== "writing") return;
    const timer = setTimeout(() => void keep(), RESTS);
    return () => clearTimeout(timer);
  }, [content, state, keep]);
  return {
    id,
    content,
    change,
    files,
    setFiles,
    keep,
    state,
    error: fetchError ?? keepError,
    ...told,
  };
}
