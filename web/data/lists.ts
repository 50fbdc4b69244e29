import type { z } from "zod";
import { findLists, getList, getListJournal, getMembers, postTry, type ListHit, type ListPage, type Member, type VerdictAnswer } from "@amigo/contract/lists";
import { api } from "./api";

export const { useListQuery, useMembersQuery, useListJournalQuery, useTryMutation, useListHitsQuery } = api.injectEndpoints({
  endpoints: (build) => ({
    list: build.query<ListPage, string>({ query: (id) => ({ endpoint: getList, params: { id } }), providesTags: ["board", "rounds"] }),
    members: build.query<{ total: number; members: Member[] }, { id: string; q: string; from: number }>({ query: ({ id, q, from }) => ({ endpoint: getMembers, params: { id }, query: { q, from } }), providesTags: ["board"] }),
    listJournal: build.query<z.output<typeof getListJournal.answer>, string>({ query: (id) => ({ endpoint: getListJournal, params: { id } }), providesTags: ["board", "posts"] }),
    try: build.mutation<z.output<typeof VerdictAnswer>, { id: string; address: string; signedIn: boolean }>({ query: ({ id, ...body }) => ({ endpoint: postTry, params: { id }, body }) }),
    listHits: build.query<ListHit[], string>({ query: (q) => ({ endpoint: findLists, query: { q } }), providesTags: ["board"] }),
  }),
});
