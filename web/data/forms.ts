import type { z } from "zod";
import {
  type ANSWER_SORTS,
  getAnswers,
  getForm,
  getForms,
  getMissing,
  getOlderAnswers,
  postAnswerDecision,
  postForm,
  postFormPreview,
  putForm,
  type AnswerLine,
  type FormPage,
} from "@amigo/contract/forms";
import { api } from "./api";

export type FormContent = FormPage["content"];

export const {
  useFormsQuery,
  useFormQuery,
  useMakeFormMutation,
  useChangeFormMutation,
  useFormPreviewQuery,
  useAnswersQuery,
  useOlderAnswersQuery,
  useDecideAnswerMutation,
  useMissingQuery,
} = api.injectEndpoints({
  endpoints: (build) => ({
    forms: build.query<z.output<typeof getForms.answer>, void>({
      query: () => ({ endpoint: getForms }),
      providesTags: ["forms"],
    }),
    form: build.query<FormPage, string>({
      query: (id) => ({ endpoint: getForm, params: { id } }),
      providesTags: ["forms"],
    }),
    makeForm: build.mutation<
      { id: string },
      { slug: string; content: FormContent; mode: "ask" | "itself" }
    >({ query: (body) => ({ endpoint: postForm, body }), invalidatesTags: ["forms", "sources"] }),
    changeForm: build.mutation<
      { version: number },
      { id: string; slug: string; content: FormContent; mode: "ask" | "itself"; version: number }
    >({
      query: ({ id, ...body }) => ({ endpoint: putForm, params: { id }, body }),
      invalidatesTags: ["forms", "sources"],
    }),
    formPreview: build.query<{ html: string }, { content: FormContent; language: string }>({
      query: (body) => ({ endpoint: postFormPreview, body }),
    }),
    answers: build.query<
      z.output<typeof getAnswers.answer>,
      {
        id: string;
        state: "all" | "waiting" | AnswerLine["state"];
        q: string;
        sort: (typeof ANSWER_SORTS)[number];
        from: number;
      }
    >({
      query: ({ id, ...query }) => ({ endpoint: getAnswers, params: { id }, query }),
      providesTags: ["forms"],
    }),
    olderAnswers: build.query<AnswerLine[], string>({
      query: (id) => ({ endpoint: getOlderAnswers, params: { id } }),
      providesTags: ["forms"],
    }),
    decideAnswer: build.mutation<{ state: AnswerLine["state"] }, { id: string; take: boolean }>({
      query: ({ id, take }) => ({ endpoint: postAnswerDecision, params: { id }, body: { take } }),
      invalidatesTags: ["forms"],
    }),
    missing: build.query<z.output<typeof getMissing.answer>, string>({
      query: (id) => ({ endpoint: getMissing, params: { id } }),
      providesTags: ["forms", "people"],
    }),
  }),
});
