import { useAddFileMutation, useDropFileMutation } from "../data/drafts";
import type { OwnDraft } from "./useDraft";

/** Adds files to a draft and takes them out again. */
export function useDraftFiles({ id, change, keep, setFiles }: OwnDraft) {
  const [addFile, adding] = useAddFileMutation();
  const [dropFile] = useDropFileMutation();
  return {
    /** Adds files, as pictures of the text or as attachments; returns where they are shown from. */
    add: async (files: readonly File[], asPictures: boolean): Promise<readonly string[]> => {
      if (files.length === 0) return [];
      change({});
      if (!(await keep())) return [];
      const sources: string[] = [];
      for (const file of files) {
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
    isAdding: adding.isLoading,
    error: adding.error,
  };
}
