import type { z } from "zod";
import {
  deleteToken,
  getHouse,
  getJournal,
  getTokens,
  postToken,
  putLimits,
  type House,
  type JournalWanted,
  type Token,
} from "@amigo/contract/house";
import { api } from "./api";

export const {
  useHouseQuery,
  useTokensQuery,
  useMakeTokenMutation,
  useRevokeTokenMutation,
  useJournalQuery,
  useChangeLimitsMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    house: build.query<House, void>({
      query: () => ({ endpoint: getHouse }),
      providesTags: ["house", "board"],
    }),
    changeLimits: build.mutation<House["limits"], House["limits"]>({
      query: (body) => ({ endpoint: putLimits, body }),
      invalidatesTags: ["house", "rounds", "board"],
    }),
    tokens: build.query<z.output<typeof Token>[], void>({
      query: () => ({ endpoint: getTokens }),
      providesTags: ["house"],
    }),
    makeToken: build.mutation<{ id: string; token: string }, { name: string }>({
      query: (body) => ({ endpoint: postToken, body }),
      invalidatesTags: ["house"],
    }),
    revokeToken: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteToken, params: { id } }),
      invalidatesTags: ["house"],
    }),
    journal: build.query<z.output<typeof getJournal.answer>, JournalWanted>({
      query: (query) => ({ endpoint: getJournal, query: { ...query } }),
      providesTags: ["house", "board", "posts", "rounds", "sources"],
    }),
  }),
});
