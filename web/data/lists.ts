import type { z } from "zod";
import {
  deleteKept,
  getAllLists,
  getKept,
  getList,
  getListJournal,
  getMembers,
  postAgree,
  postKept,
  putMemberHowOften,
  postMembers,
  postPasted,
  postTry,
  postTryAll,
  postWelcomePreview,
  putOwnShort,
  type Kept,
  type ListPage,
  type Member,
  type VerdictAnswer,
} from "@amigo/contract/lists";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import { api } from "./api";

export const {
  useListQuery,
  useMembersQuery,
  useListJournalQuery,
  useTryMutation,
  useTryAllQuery,
  useAgreeMutation,
  useKeptQuery,
  useKeepMutation,
  useSetHowOftenMutation,
  useLetGoMutation,
  usePastedMutation,
  useAddMembersMutation,
  useWelcomePreviewQuery,
  useOwnShortMutation,
  useAllListsQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    list: build.query<ListPage, string>({
      query: (id) => ({ endpoint: getList, params: { id } }),
      providesTags: ["board", "rounds"],
    }),
    members: build.query<
      { total: number; members: Member[] },
      { id: string; q: string; from: number; on: string }
    >({
      query: ({ id, ...query }) => ({ endpoint: getMembers, params: { id }, query }),
      providesTags: ["board"],
    }),
    kept: build.query<Kept[], string>({
      query: (id) => ({ endpoint: getKept, params: { id } }),
      providesTags: ["board"],
    }),
    setHowOften: build.mutation<
      unknown,
      { id: string; address: string; howOften: Member["howOften"] }
    >({
      query: ({ id, ...body }) => ({ endpoint: putMemberHowOften, params: { id }, body }),
      invalidatesTags: ["board"],
    }),
    keep: build.mutation<
      { address: string; member: boolean },
      { id: string; address: string; side: "on" | "off"; reason: string; lastDay: string }
    >({
      query: ({ id, ...body }) => ({ endpoint: postKept, params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    letGo: build.mutation<{ member: boolean }, { id: string; address: string }>({
      query: ({ id, ...body }) => ({ endpoint: deleteKept, params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    listJournal: build.query<z.output<typeof getListJournal.answer>, string>({
      query: (id) => ({ endpoint: getListJournal, params: { id } }),
      providesTags: ["board", "posts"],
    }),
    try: build.mutation<VerdictAnswer, { id: string; address: string; proof: Proof }>({
      query: ({ id, ...body }) => ({ endpoint: postTry, params: { id }, body }),
    }),
    tryAll: build.query<z.output<typeof postTryAll.answer>, { address: string; proof: Proof }>({
      query: (body) => ({ endpoint: postTryAll, body }),
      providesTags: ["board", "house"],
      keepUnusedDataFor: 10,
    }),
    agree: build.mutation<{ members: number }, { id: string; ids: string[]; agree: boolean }>({
      query: ({ id, ...body }) => ({ endpoint: postAgree, params: { id }, body }),
      invalidatesTags: ["board", "people"],
    }),
    pasted: build.mutation<z.output<typeof postPasted.answer>, { id: string; text: string }>({
      query: ({ id, text }) => ({ endpoint: postPasted, params: { id }, body: { text } }),
    }),
    welcomePreview: build.query<
      z.output<typeof postWelcomePreview.answer>,
      { text: string; list: string | null; as: string }
    >({ query: (body) => ({ endpoint: postWelcomePreview, body }) }),
    addMembers: build.mutation<
      z.output<typeof postMembers.answer>,
      {
        id: string;
        addresses: string[];
        how: "quietly" | "welcome" | "ask";
        reason: string;
        lastDay: string;
      }
    >({
      query: ({ id, ...body }) => ({ endpoint: postMembers, params: { id }, body }),
      invalidatesTags: ["board", "rounds", "people"],
    }),
    ownShort: build.mutation<{ short: string }, { id: string; short: string }>({
      query: ({ id, short }) => ({ endpoint: putOwnShort, params: { id }, body: { short } }),
      invalidatesTags: ["board"],
    }),
    allLists: build.query<z.output<typeof getAllLists.answer>, string>({
      query: (season) => ({ endpoint: getAllLists, query: { season } }),
      providesTags: ["board", "house"],
    }),
  }),
});
