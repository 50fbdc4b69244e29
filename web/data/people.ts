import type { z } from "zod";
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
  type PersonPage,
  type QuestionLine,
} from "@amigo/contract/people";
import { api } from "./api";

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
    people: build.query<
      z.output<typeof getPeople.answer>,
      { q: string; only: "" | "unreachable"; from: number }
    >({ query: (query) => ({ endpoint: getPeople, query }), providesTags: ["people", "board"] }),
    person: build.query<PersonPage, string>({
      query: (id) => ({ endpoint: getPerson, params: { id } }),
      providesTags: ["people", "board"],
    }),
    left: build.query<z.output<typeof getLeft.answer>, string>({
      query: (q) => ({ endpoint: getLeft, query: { q } }),
      providesTags: ["people", "rounds"],
    }),
    forget: build.mutation<unknown, { id: string; name: string }>({
      query: ({ id, name }) => ({ endpoint: postForget, params: { id }, body: { name } }),
      invalidatesTags: [...CHANGES, "house"],
    }),
    questions: build.query<QuestionLine[], void>({
      query: () => ({ endpoint: getQuestions }),
      providesTags: ["people", "rounds"],
    }),
    answer: build.mutation<unknown, { key: string; choice: string }>({
      query: (body) => ({ endpoint: postAnswer, body }),
      invalidatesTags: [...CHANGES],
    }),
    byHand: build.query<z.output<typeof getByHand.answer>, void>({
      query: () => ({ endpoint: getByHand }),
      providesTags: ["people"],
    }),
    withdraw: build.mutation<unknown, number>({
      query: (number) => ({ endpoint: deleteByHand, params: { number } }),
      invalidatesTags: [...CHANGES],
    }),
    join: build.mutation<unknown, { id: string; other: string }>({
      query: ({ id, other }) => ({ endpoint: postJoin, params: { id }, body: { other } }),
      invalidatesTags: [...CHANGES],
    }),
    part: build.mutation<
      { person: string },
      { id: string; students: string[]; addresses: string[] }
    >({
      query: ({ id, ...body }) => ({ endpoint: postPart, params: { id }, body }),
      invalidatesTags: [...CHANGES],
    }),
    settleAddresses: build.mutation<unknown, { id: string; addresses: string[] }>({
      query: ({ id, addresses }) => ({
        endpoint: putAddresses,
        params: { id },
        body: { addresses },
      }),
      invalidatesTags: [...CHANGES],
    }),
  }),
});
