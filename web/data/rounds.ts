import {
  getCause,
  getCauses,
  getChoices,
  getOutline,
  type CauseChoice,
} from "@amigo/contract/causes";
import {
  getOpenRound,
  getRound,
  getRounds,
  getTakeBack,
  postDecisions,
  postStep,
  postTakeBack,
} from "@amigo/contract/rounds";
import { api } from "./api";
import { reads, readsPages, sends, sendsBody } from "./request";

const STEPS = ["rounds", "board", "people"] as const;

/** Causes of a round by number. */
export interface CausesOfRound extends CauseChoice {
  round: number;
  /** Those alone that are decided so; for a decision on all that a choice means. */
  decision?: "accepted" | "held";
}

const rounds = api.injectEndpoints({
  endpoints: (build) => ({
    openRound: reads(build, getOpenRound, { providesTags: ["rounds"] }),
    round: reads(build, getRound, {
      of: (number: number) => ({ params: { number } }),
      providesTags: ["rounds"],
    }),
    rounds: reads(build, getRounds, { providesTags: ["rounds"] }),
    choices: reads(build, getChoices, {
      of: (number: number) => ({ params: { number } }),
      providesTags: ["rounds"],
    }),
    outline: reads(build, getOutline, {
      of: ({ round, ...query }: CausesOfRound) => ({ params: { number: round }, query }),
      providesTags: ["rounds"],
    }),
    causes: readsPages(build, getCauses, {
      of: ({ round, ...choice }: CausesOfRound, after) => ({
        params: { number: round },
        query: { ...choice, after },
      }),
      next: (page) => page.next,
      providesTags: ["rounds"],
    }),
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

/** What of the causes was fetched, and fetching more of them, outside of the component that shows them. */
export const { causes: causePages } = rounds.endpoints;

export const {
  useOpenRoundQuery,
  useRoundQuery,
  useRoundsQuery,
  useChoicesQuery,
  useOutlineQuery,
  useCausesInfiniteQuery,
  useCauseQuery,
  useDecideMutation,
  useStepMutation,
  usePlannedTakeBackQuery,
  useTakeBackMutation,
} = rounds;
