import { getHealthDetails } from "@amigo/contract/health";
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
  type JournalWanted,
} from "@amigo/contract/house";
import {
  getRetention,
  postRetentionPreview,
  putRetention,
  type Retention,
} from "@amigo/contract/retention";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export const {
  useHealthDetailsQuery,
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
    healthDetails: reads(build, getHealthDetails, { keepUnusedDataFor: 0 }),
    house: reads(build, getHouse, { providesTags: ["house", "board"] }),
    changeLimits: sendsBody(build, putLimits, { invalidatesTags: ["house", "rounds", "board"] }),
    changeBasics: sendsBody(build, putBasics, {
      invalidatesTags: ["house", "me", "rounds", "board"],
    }),
    setPicture: sends(build, postPicture, {
      of: (file: File) => {
        const body = new FormData();
        body.set("file", file);
        return { body };
      },
      invalidatesTags: ["me"],
    }),
    removePicture: sends(build, deletePicture, { invalidatesTags: ["me"] }),
    retention: reads(build, getRetention, { providesTags: ["house"] }),
    previewRetention: sends(build, postRetentionPreview, {
      of: (times: Retention["times"]) => ({ body: { times } }),
    }),
    changeRetention: sendsBody(build, putRetention, { invalidatesTags: ["house"] }),
    tokens: reads(build, getTokens, { providesTags: ["house"] }),
    makeToken: sendsBody(build, postToken, { invalidatesTags: ["house"] }),
    revokeToken: sends(build, deleteToken, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["house"],
    }),
    journal: reads(build, getJournal, {
      of: (query: JournalWanted) => ({ query: { ...query } }),
      providesTags: ["house", "board", "posts", "rounds", "sources"],
    }),
  }),
});
