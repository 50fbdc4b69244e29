import type { z } from "zod";
import {
  getCause,
  getOpenRound,
  getRound,
  getRounds,
  getTakeBack,
  postDecisions,
  postStep,
  postTakeBack,
  type CausePage,
  type RoundLine,
  type RoundPage,
  type TakeBack,
} from "@amigo/contract/rounds";
import { api } from "./api";

const STEPS = ["rounds", "board", "people"] as const;

export const {
  useOpenRoundQuery,
  useRoundQuery,
  useRoundsQuery,
  useCauseQuery,
  useDecideMutation,
  useStepMutation,
  usePlannedTakeBackQuery,
  useTakeBackMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    openRound: build.query<RoundPage | null, void>({
      query: () => ({ endpoint: getOpenRound }),
      providesTags: ["rounds"],
    }),
    round: build.query<RoundPage, number>({
      query: (number) => ({ endpoint: getRound, params: { number } }),
      providesTags: ["rounds"],
    }),
    rounds: build.query<z.output<typeof RoundLine>[], void>({
      query: () => ({ endpoint: getRounds }),
      providesTags: ["rounds"],
    }),
    cause: build.query<CausePage, { round: number; position: number; version: number }>({
      query: ({ round, position }) => ({ endpoint: getCause, params: { number: round, position } }),
      providesTags: ["rounds"],
    }),
    decide: build.mutation<
      { version: number },
      { round: number; causes: number[]; decision: "accepted" | "held" }
    >({
      query: (body) => ({ endpoint: postDecisions, body }),
      invalidatesTags: ["rounds"],
    }),
    step: build.mutation<
      z.output<typeof postStep.answer>,
      { round: number; version: number; passed: Record<string, number> }
    >({ query: (body) => ({ endpoint: postStep, body }), invalidatesTags: [...STEPS] }),
    plannedTakeBack: build.query<TakeBack, number>({
      query: (number) => ({ endpoint: getTakeBack, params: { number } }),
      providesTags: ["rounds", "board"],
      keepUnusedDataFor: 0,
    }),
    takeBack: build.mutation<
      z.output<typeof postTakeBack.answer>,
      { round: number; passed: Record<string, number> }
    >({
      query: ({ round, passed }) => ({
        endpoint: postTakeBack,
        params: { number: round },
        body: { passed },
      }),
      invalidatesTags: [...STEPS],
    }),
  }),
});
