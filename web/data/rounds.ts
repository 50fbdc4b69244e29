import {
  getCause,
  getOpenRound,
  getRound,
  getRounds,
  getTakeBack,
  postDecisions,
  postStep,
  postTakeBack,
} from "@amigo/contract/rounds";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

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
    openRound: reads(build, getOpenRound, { providesTags: ["rounds"] }),
    round: reads(build, getRound, {
      of: (number: number) => ({ params: { number } }),
      providesTags: ["rounds"],
    }),
    rounds: reads(build, getRounds, { providesTags: ["rounds"] }),
    cause: reads(build, getCause, {
      of: ({ round, position }: { round: number; position: number; version: number }) => ({
        params: { number: round, position },
      }),
      providesTags: ["rounds"],
    }),
    decide: sendsBody(build, postDecisions, { invalidatesTags: ["rounds"] }),
    step: sendsBody(build, postStep, { invalidatesTags: [...STEPS] }),
    plannedTakeBack: reads(build, getTakeBack, {
      of: (number: number) => ({ params: { number } }),
      providesTags: ["rounds", "board"],
      keepUnusedDataFor: 0,
    }),
    takeBack: sends(build, postTakeBack, {
      of: ({ round, passed }: { round: number; passed: Record<string, number> }) => ({
        params: { number: round },
        body: { passed },
      }),
      invalidatesTags: [...STEPS],
    }),
  }),
});
