import type { z } from "zod";
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
  postPreview,
  postReckonDraft,
  postSendDraft,
  postTemplate,
  postUnplan,
  putDraft,
  type Draft,
  type DraftContent,
  type DraftFile,
  type DraftReckoning,
  type TargetHit,
  type Template,
} from "@amigo/contract/drafts";
import { api } from "./api";

type Sent = z.output<typeof postSendDraft.answer>;
type Shown = z.output<typeof postPreview.answer>;

export const {
  useDraftsQuery,
  useLazyDraftQuery,
  useKeepDraftMutation,
  useDropDraftMutation,
  useAddFileMutation,
  useDropFileMutation,
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
    drafts: build.query<Draft[], void>({
      query: () => ({ endpoint: getDrafts }),
      providesTags: ["posts"],
    }),
    draft: build.query<Draft, string>({ query: (id) => ({ endpoint: getDraft, params: { id } }) }),
    keepDraft: build.mutation<Draft, { id: string; content: DraftContent }>({
      query: ({ id, content }) => ({ endpoint: putDraft, params: { id }, body: content }),
    }),
    dropDraft: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteDraft, params: { id } }),
      invalidatesTags: ["posts"],
    }),
    addFile: build.mutation<DraftFile, { id: string; file: File; inline: boolean }>({
      query: ({ id, file, inline }) => {
        const body = new FormData();
        body.set("file", file);
        body.set("inline", inline ? "yes" : "no");
        return { endpoint: postDraftFile, params: { id }, body };
      },
    }),
    dropFile: build.mutation<unknown, { id: string; file: string }>({
      query: ({ id, file }) => ({ endpoint: deleteDraftFile, params: { id, file } }),
    }),
    reckonDraft: build.query<DraftReckoning, { content: DraftContent; files: number }>({
      query: (body) => ({ endpoint: postReckonDraft, body }),
      providesTags: ["board", "private"],
    }),
    preview: build.mutation<Shown, { id: string; address: string }>({
      query: ({ id, address }) => ({ endpoint: postPreview, params: { id }, body: { address } }),
    }),
    sendDraft: build.mutation<
      Sent,
      { id: string; how: "now" | "later" | "test"; at?: string; asked: string[] }
    >({
      query: ({ id, ...body }) => ({ endpoint: postSendDraft, params: { id }, body }),
      invalidatesTags: ["posts"],
    }),
    unplan: build.mutation<Draft, string>({
      query: (id) => ({ endpoint: postUnplan, params: { id } }),
      invalidatesTags: ["posts"],
    }),
    targets: build.query<TargetHit[], string>({
      query: (q) => ({ endpoint: getTargets, query: { q } }),
      providesTags: ["board", "private", "people"],
    }),
    targetMembers: build.query<z.output<typeof getTargetMembers.answer>, string>({
      query: (id) => ({ endpoint: getTargetMembers, params: { id } }),
      providesTags: ["board"],
    }),
    templates: build.query<Template[], void>({
      query: () => ({ endpoint: getTemplates }),
      providesTags: ["me"],
    }),
    keepTemplate: build.mutation<
      Template,
      { name: string; subject: string; html: string; shared: boolean }
    >({ query: (body) => ({ endpoint: postTemplate, body }), invalidatesTags: ["me"] }),
    dropTemplate: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteTemplate, params: { id } }),
      invalidatesTags: ["me"],
    }),
  }),
});
