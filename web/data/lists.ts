import type { z } from "zod";
import { deleteKept, findLists, getKept, getList, getListJournal, getMembers, postKept, postTry, type Kept, type ListHit, type ListPage, type Member, type VerdictAnswer } from "@amigo/contract/lists";
import { api } from "./api";

export const { useListQuery, useMembersQuery, useListJournalQuery, useTryMutation, useListHitsQuery, useKeptQuery, useKeepMutation, useLetGoMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    list: build.query<ListPage, string>({ query: (id) => ({ endpoint: getList, params: { id } }), providesTags: ["board", "rounds"] }),
    members: build.query<{ total: number; members: Member[] }, { id: string; q: string; from: number; on: string }>({ query: ({ id, ...query }) => ({ endpoint: getMembers, params: { id }, query }), providesTags: ["board"] }),
    kept: build.query<Kept[], string>({ query: (id) => ({ endpoint: getKept, params: { id } }), providesTags: ["board"] }),
    keep: build.mutation<{ address: string; member: boolean }, { id: string; address: string; side: "on" | "off"; reason: string; lastDay: string }>({ query: ({ id, ...body }) => ({ endpoint: postKept, params: { id }, body }), invalidatesTags: ["board", "rounds", "people"] }),
    letGo: build.mutation<{ member: boolean }, { id: string; address: string }>({ query: ({ id, ...body }) => ({ endpoint: deleteKept, params: { id }, body }), invalidatesTags: ["board", "rounds", "people"] }),
    listJournal: build.query<z.output<typeof getListJournal.answer>, string>({ query: (id) => ({ endpoint: getListJournal, params: { id } }), providesTags: ["board", "posts"] }),
    try: build.mutation<z.output<typeof VerdictAnswer>, { id: string; address: string; signedIn: boolean }>({ query: ({ id, ...body }) => ({ endpoint: postTry, params: { id }, body }) }),
    listHits: build.query<ListHit[], string>({ query: (q) => ({ endpoint: findLists, query: { q } }), providesTags: ["board"] }),
  }),
});
