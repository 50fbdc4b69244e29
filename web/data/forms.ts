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
import { reads, sends, sendsBody } from "./request";

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
    forms: reads(build, getForms, { providesTags: ["forms"] }),
    form: reads(build, getForm, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["forms"],
    }),
    makeForm: sendsBody(build, postForm, { invalidatesTags: ["forms", "sources"] }),
    changeForm: sends(build, putForm, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        slug: string;
        content: FormContent;
        mode: "ask" | "itself";
        version: number;
      }) => ({ params: { id }, body }),
      invalidatesTags: ["forms", "sources"],
    }),
    formPreview: reads(build, postFormPreview, {
      of: (body: { content: FormContent; language: string }) => ({ body }),
    }),
    answers: reads(build, getAnswers, {
      of: ({
        id,
        ...query
      }: {
        id: string;
        state: "all" | "waiting" | AnswerLine["state"];
        q: string;
        sort: (typeof ANSWER_SORTS)[number];
        from: number;
      }) => ({ params: { id }, query }),
      providesTags: ["forms"],
    }),
    olderAnswers: reads(build, getOlderAnswers, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["forms"],
    }),
    decideAnswer: sends(build, postAnswerDecision, {
      of: ({ id, take }: { id: string; take: boolean }) => ({ params: { id }, body: { take } }),
      invalidatesTags: ["forms"],
    }),
    missing: reads(build, getMissing, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["forms", "people"],
    }),
  }),
});
