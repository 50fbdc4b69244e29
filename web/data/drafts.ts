import {
  deleteDraft,
  deleteDraftFile,
  deleteTemplate,
  getDraft,
  getDrafts,
  getTargetMembers,
  getTargets,
  getTemplates,
  postDraftFile,
  postDraftShelve,
  postPreview,
  postReckonDraft,
  postSendDraft,
  postTemplate,
  postUnplan,
  putDraft,
  type DraftContent,
} from "@amigo/contract/drafts";
import { api } from "./api";
import { reads, sends, sendsBody, type BodyOf } from "./request";

export const {
  useDraftsQuery,
  useLazyDraftQuery,
  useKeepDraftMutation,
  useDropDraftMutation,
  useAddFileMutation,
  useDropFileMutation,
  useShelveMutation,
  useReckonDraftQuery,
  usePreviewMutation,
  useSendDraftMutation,
  useUnplanMutation,
  useTargetsQuery,
  useTargetMembersQuery,
  useTemplatesQuery,
  useKeepTemplateMutation,
  useDropTemplateMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    drafts: reads(build, getDrafts, { providesTags: ["posts"] }),
    draft: reads(build, getDraft, { of: (id: string) => ({ params: { id } }) }),
    keepDraft: sends(build, putDraft, {
      of: ({ id, content }: { id: string; content: DraftContent }) => ({
        params: { id },
        body: content,
      }),
    }),
    dropDraft: sends(build, deleteDraft, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["posts"],
    }),
    addFile: sends(build, postDraftFile, {
      of: ({ id, file, inline }: { id: string; file: File; inline: boolean }) => {
        const body = new FormData();
        body.set("file", file);
        body.set("inline", inline ? "yes" : "no");
        return { params: { id }, body };
      },
    }),
    shelve: sends(build, postDraftShelve, {
      of: ({ id, ...body }: { id: string } & BodyOf<typeof postDraftShelve>) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["shelf"],
    }),
    dropFile: sends(build, deleteDraftFile, {
      of: ({ id, file }: { id: string; file: string }) => ({ params: { id, file } }),
    }),
    reckonDraft: reads(build, postReckonDraft, {
      of: (body: { content: DraftContent; files: number }) => ({ body }),
      providesTags: ["board", "private"],
    }),
    preview: sends(build, postPreview, {
      of: ({ id, address }: { id: string; address: string }) => ({
        params: { id },
        body: { address },
      }),
    }),
    sendDraft: sends(build, postSendDraft, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        how: "now" | "later" | "test";
        at?: string;
        asked: string[];
      }) => ({ params: { id }, body }),
      invalidatesTags: ["posts"],
    }),
    unplan: sends(build, postUnplan, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["posts"],
    }),
    targets: reads(build, getTargets, {
      of: (q: string) => ({ query: { q } }),
      providesTags: ["board", "private", "people"],
    }),
    targetMembers: reads(build, getTargetMembers, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["board"],
    }),
    templates: reads(build, getTemplates, { providesTags: ["me"] }),
    keepTemplate: sendsBody(build, postTemplate, { invalidatesTags: ["me"] }),
    dropTemplate: sends(build, deleteTemplate, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
  }),
});
