import type { z } from "zod";
import { getCause, getOpenRound, getRound, getRounds, postDecisions, postStep, type CausePage, type RoundLine, type RoundPage } from "@amigo/contract/rounds";
import { api } from "./api";

export const { useOpenRoundQuery, useRoundQuery, useRoundsQuery, useCauseQuery, useDecideMutation, useStepMutation } = api.injectEndpoints({
  endpoints: (build) => ({
    openRound: build.query<RoundPage | null, void>({ query: () => ({ endpoint: getOpenRound }), providesTags: ["rounds"] }),
    round: build.query<RoundPage, number>({ query: (number) => ({ endpoint: getRound, params: { number } }), providesTags: ["rounds"] }),
    rounds: build.query<z.output<typeof RoundLine>[], void>({ query: () => ({ endpoint: getRounds }), providesTags: ["rounds"] }),
    cause: build.query<CausePage, { round: number; position: number; version: number }>({ query: ({ round, position }) => ({ endpoint: getCause, params: { number: round, position } }), providesTags: ["rounds"] }),
    decide: build.mutation<{ version: number }, { round: number; causes: number[]; decision: "accepted" | "held" }>({
      query: (body) => ({ endpoint: postDecisions, body }),
      invalidatesTags: ["rounds"],
    }),
    step: build.mutation<z.output<typeof postStep.answer>, { round: number; version: number; passed: Record<string, number> }>({ query: (body) => ({ endpoint: postStep, body }), invalidatesTags: ["rounds", "board"] }),
  }),
});
