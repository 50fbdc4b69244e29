import type { TokenScope } from "@amigo/core/access/tokenScopes";
import type { z } from "zod";
import {
  deleteToken,
  getHouse,
  getJournal,
  getTokens,
  postToken,
  deletePicture,
  postPicture,
  putBasics,
  putLimits,
  type House,
  type JournalWanted,
  type Token,
} from "@amigo/contract/house";
import {
  getRetention,
  postRetentionPreview,
  putRetention,
  type Retention,
} from "@amigo/contract/retention";
import { api } from "./api";

interface NewToken {
  name: string;
  scopes: TokenScope[];
  lastDay: string;
}

export const {
  useHouseQuery,
  useTokensQuery,
  useMakeTokenMutation,
  useRevokeTokenMutation,
  useJournalQuery,
  useChangeLimitsMutation,
  useChangeBasicsMutation,
  useSetPictureMutation,
  useRemovePictureMutation,
  useRetentionQuery,
  usePreviewRetentionMutation,
  useChangeRetentionMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    house: build.query<House, void>({
      query: () => ({ endpoint: getHouse }),
      providesTags: ["house", "board"],
    }),
    changeLimits: build.mutation<{ version: string }, House["limits"] & { version: string }>({
      query: (body) => ({ endpoint: putLimits, body }),
      invalidatesTags: ["house", "rounds", "board"],
    }),
    changeBasics: build.mutation<
      z.output<typeof putBasics.answer>,
      z.output<NonNullable<typeof putBasics.body>>
    >({
      query: (body) => ({ endpoint: putBasics, body }),
      invalidatesTags: ["house", "me", "rounds", "board"],
    }),
    setPicture: build.mutation<unknown, File>({
      query: (file) => {
        const body = new FormData();
        body.set("file", file);
        return { endpoint: postPicture, body };
      },
      invalidatesTags: ["me"],
    }),
    removePicture: build.mutation<unknown, void>({
      query: () => ({ endpoint: deletePicture }),
      invalidatesTags: ["me"],
    }),
    retention: build.query<Retention, void>({
      query: () => ({ endpoint: getRetention }),
      providesTags: ["house"],
    }),
    previewRetention: build.mutation<
      z.output<typeof postRetentionPreview.answer>,
      Retention["times"]
    >({ query: (times) => ({ endpoint: postRetentionPreview, body: { times } }) }),
    changeRetention: build.mutation<Retention, Retention>({
      query: (body) => ({ endpoint: putRetention, body }),
      invalidatesTags: ["house"],
    }),
    tokens: build.query<z.output<typeof Token>[], void>({
      query: () => ({ endpoint: getTokens }),
      providesTags: ["house"],
    }),
    makeToken: build.mutation<{ id: string; token: string }, NewToken>({
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
