import type { z } from "zod";
import {
  getRequestEffect,
  getRequests,
  postDecideRequest,
  postRequest,
  postWithdrawRequest,
  type RequestEffect,
  type RequestLine,
} from "@amigo/contract/requests";
import { api } from "./api";

export type RequestWanted = z.input<NonNullable<typeof postRequest.body>>;

export const {
  useRequestsQuery,
  useAskForMutation,
  useRequestEffectQuery,
  useDecideRequestMutation,
  useWithdrawRequestMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    requests: build.query<RequestLine[], void>({
      query: () => ({ endpoint: getRequests }),
      providesTags: ["house", "board"],
    }),
    askFor: build.mutation<z.output<typeof postRequest.answer>, RequestWanted>({
      query: (body) => ({ endpoint: postRequest, body }),
      invalidatesTags: ["house", "board"],
    }),
    requestEffect: build.query<z.output<typeof RequestEffect>, string>({
      query: (id) => ({ endpoint: getRequestEffect, params: { id } }),
      keepUnusedDataFor: 0,
    }),
    decideRequest: build.mutation<
      { done: string },
      { id: string; yes: boolean; until: string; word: string }
    >({
      query: ({ id, ...body }) => ({ endpoint: postDecideRequest, params: { id }, body }),
      invalidatesTags: ["house", "board", "rounds", "people"],
    }),
    withdrawRequest: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: postWithdrawRequest, params: { id } }),
      invalidatesTags: ["house", "board"],
    }),
  }),
});
