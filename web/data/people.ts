import {
  deleteByHand,
  getByHand,
  getLeft,
  getPeople,
  getPerson,
  getQuestions,
  postAnswer,
  postForget,
  postJoin,
  postPart,
  putAddresses,
} from "@amigo/contract/people";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

const CHANGES = ["people", "rounds", "board"] as const;

export const {
  usePeopleQuery,
  usePersonQuery,
  useLeftQuery,
  useForgetMutation,
  useQuestionsQuery,
  useAnswerMutation,
  useByHandQuery,
  useWithdrawMutation,
  useJoinMutation,
  usePartMutation,
  useSettleAddressesMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    people: reads(build, getPeople, {
      of: (query: { q: string; only: "" | "unreachable"; from: number }) => ({ query }),
      providesTags: ["people", "board"],
    }),
    person: reads(build, getPerson, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["people", "board"],
    }),
    left: reads(build, getLeft, {
      of: (q: string) => ({ query: { q } }),
      providesTags: ["people", "rounds"],
    }),
    forget: sends(build, postForget, {
      of: ({ id, name }: { id: string; name: string }) => ({ params: { id }, body: { name } }),
      invalidatesTags: [...CHANGES, "house"],
    }),
    questions: reads(build, getQuestions, { providesTags: ["people", "rounds"] }),
    answer: sendsBody(build, postAnswer, { invalidatesTags: [...CHANGES] }),
    byHand: reads(build, getByHand, { providesTags: ["people"] }),
    withdraw: sends(build, deleteByHand, {
      of: (number: number) => ({ params: { number } }),
      invalidatesTags: [...CHANGES],
    }),
    join: sends(build, postJoin, {
      of: ({ id, other }: { id: string; other: string }) => ({ params: { id }, body: { other } }),
      invalidatesTags: [...CHANGES],
    }),
    part: sends(build, postPart, {
      of: ({ id, ...body }: { id: string; students: string[]; addresses: string[] }) => ({
        params: { id },
        body,
      }),
      invalidatesTags: [...CHANGES],
    }),
    settleAddresses: sends(build, putAddresses, {
      of: ({ id, addresses }: { id: string; addresses: string[] }) => ({
        params: { id },
        body: { addresses },
      }),
      invalidatesTags: [...CHANGES],
    }),
  }),
});
