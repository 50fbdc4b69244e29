import type { z } from "zod";
import {
  deleteSession,
  getAccounts,
  getOwnSessions,
  postAccount,
  postChoosePassword,
  postEndAccount,
  postEndOthers,
  postInviteAgain,
  postLookAtLink,
  postMailLink,
  postPassword,
  postSignInByLink,
  putAccount,
  type SessionLine,
} from "@amigo/contract/staff";
import { getHelped, postRows, type HelpedSource } from "@amigo/contract/sources";
import { api } from "./api";

type Given = z.input<NonNullable<typeof putAccount.body>>;

export const {
  useAccountsQuery,
  useInviteMutation,
  useChangeAccountMutation,
  useEndAccountMutation,
  useInviteAgainMutation,
  useSessionsQuery,
  useEndSessionMutation,
  useEndOthersMutation,
  useChangePasswordMutation,
  useMailLinkMutation,
  useSignInByLinkMutation,
  useLookAtLinkQuery,
  useChoosePasswordMutation,
  useHelpedQuery,
  useAddRowsMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    accounts: build.query<z.output<typeof getAccounts.answer>, void>({
      query: () => ({ endpoint: getAccounts }),
      providesTags: ["house"],
    }),
    invite: build.mutation<{ id: string }, z.input<NonNullable<typeof postAccount.body>>>({
      query: (body) => ({ endpoint: postAccount, body }),
      invalidatesTags: ["house", "board"],
    }),
    changeAccount: build.mutation<unknown, { id: string } & Given>({
      query: ({ id, ...body }) => ({ endpoint: putAccount, params: { id }, body }),
      invalidatesTags: ["house", "board", "me"],
    }),
    endAccount: build.mutation<unknown, { id: string; ended: boolean }>({
      query: ({ id, ended }) => ({ endpoint: postEndAccount, params: { id }, body: { ended } }),
      invalidatesTags: ["house", "board"],
    }),
    inviteAgain: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: postInviteAgain, params: { id } }),
    }),
    sessions: build.query<SessionLine[], void>({
      query: () => ({ endpoint: getOwnSessions }),
      providesTags: ["me"],
    }),
    endSession: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteSession, params: { id } }),
      invalidatesTags: ["me"],
    }),
    endOthers: build.mutation<{ ended: number }, void>({
      query: () => ({ endpoint: postEndOthers }),
      invalidatesTags: ["me"],
    }),
    changePassword: build.mutation<unknown, { current: string; password: string }>({
      query: (body) => ({ endpoint: postPassword, body }),
      invalidatesTags: ["me"],
    }),
    mailLink: build.mutation<unknown, { email: string; what: "sign-in" | "new password" }>({
      query: (body) => ({ endpoint: postMailLink, body }),
    }),
    signInByLink: build.mutation<unknown, string>({
      query: (token) => ({ endpoint: postSignInByLink, body: { token } }),
    }),
    lookAtLink: build.query<z.output<typeof postLookAtLink.answer>, string>({
      query: (token) => ({ endpoint: postLookAtLink, body: { token } }),
      keepUnusedDataFor: 0,
    }),
    choosePassword: build.mutation<unknown, { token: string; password: string }>({
      query: (body) => ({ endpoint: postChoosePassword, body }),
    }),
    helped: build.query<HelpedSource[], void>({
      query: () => ({ endpoint: getHelped }),
      providesTags: ["sources"],
    }),
    addRows: build.mutation<{ added: number }, { id: string; rows: string[][] }>({
      query: ({ id, rows }) => ({ endpoint: postRows, params: { id }, body: { rows } }),
      invalidatesTags: ["sources", "rounds", "board"],
    }),
  }),
});
