import type { z } from "zod";
import {
  getRequestEffect,
  getRequests,
  postDecideRequest,
  postRequest,
  postWithdrawRequest,
} from "@amigo/contract/requests";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

export type RequestWanted = z.input<NonNullable<typeof postRequest.body>>;

export const {
  useRequestsQuery,
  useAskForMutation,
  useRequestEffectQuery,
  useDecideRequestMutation,
  useWithdrawRequestMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    requests: reads(build, getRequests, { providesTags: ["house", "board"] }),
    askFor: sendsBody(build, postRequest, { invalidatesTags: ["house", "board"] }),
    requestEffect: reads(build, getRequestEffect, {
      of: (id: string) => ({ params: { id } }),
      keepUnusedDataFor: 0,
    }),
    decideRequest: sends(build, postDecideRequest, {
      of: ({ id, ...body }: { id: string; yes: boolean; until: string; word: string }) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["house", "board", "rounds", "people"],
    }),
    withdrawRequest: sends(build, postWithdrawRequest, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["house", "board"],
    }),
  }),
});
