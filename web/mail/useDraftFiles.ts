import { useState } from "react";
import { LARGEST_FILE } from "@amigo/contract/drafts";
import { useAddFileMutation, useDropFileMutation } from "../data/drafts";
import type { OwnDraft } from "./useDraft";

/** Adds files to a draft and takes them out again. */
export function useDraftFiles({ id, change, keep, setFiles }: OwnDraft) {
  const [addFile, adding] = useAddFileMutation();
  const [dropFile] = useDropFileMutation();
  const [large, setLarge] = useState<readonly File[]>([]);
  return {
    /** Adds files, as pictures of the text or as attachments; returns where they are shown from. */
    add: async (files: readonly File[], asPictures: boolean): Promise<readonly string[]> => {
      // What no mail can carry waits for its writer to put it on a shelf.
      const tooLarge = asPictures ? [] : files.filter(({ size }) => size > LARGEST_FILE);
      if (tooLarge.length > 0) setLarge((before) => [...before, ...tooLarge]);
      if (files.length === tooLarge.length) return [];
      change({});
      if (!(await keep())) return [];
      const sources: string[] = [];
      for (const file of files.filter((one) => !tooLarge.includes(one))) {
        const { data } = await addFile({ id, file, inline: asPictures });
        if (data === undefined) continue;
        setFiles((before) => [...before, data]);
        sources.push(`/api/drafts/${id}/files/${data.id}`);
      }
      return sources;
    },
    drop: (file: string): void => {
      void dropFile({ id, file });
      setFiles((before) => before.filter((one) => one.id !== file));
    },
    large,
    forgetLarge: (file: File): void => setLarge((before) => before.filter((one) => one !== file)),
    isAdding: adding.isLoading,
    error: adding.error,
  };
}
