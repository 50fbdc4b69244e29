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
} from "@amigo/contract/staff";
import { putOwnLanguage } from "@amigo/contract/accounts";
import type { StaffLanguage } from "@amigo/language/staff";
import { getHelped, postRows } from "@amigo/contract/readings";
import { api } from "./api";
import { reads, sends, sendsBody } from "./request";

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
  useChooseOwnLanguageMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    chooseOwnLanguage: sends(build, putOwnLanguage, {
      of: (language: StaffLanguage) => ({ body: { language } }),
      invalidatesTags: ["me"],
    }),
    accounts: reads(build, getAccounts, { providesTags: ["house"] }),
    invite: sendsBody(build, postAccount, { invalidatesTags: ["house", "board"] }),
    changeAccount: sends(build, putAccount, {
      of: ({ id, ...body }: { id: string } & Given) => ({ params: { id }, body }),
      invalidatesTags: ["house", "board", "me"],
    }),
    endAccount: sends(build, postEndAccount, {
      of: ({ id, ended }: { id: string; ended: boolean }) => ({ params: { id }, body: { ended } }),
      invalidatesTags: ["house", "board"],
    }),
    inviteAgain: sends(build, postInviteAgain, { of: (id: string) => ({ params: { id } }) }),
    sessions: reads(build, getOwnSessions, { providesTags: ["me"] }),
    endSession: sends(build, deleteSession, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
    endOthers: sends(build, postEndOthers, { invalidatesTags: ["me"] }),
    changePassword: sendsBody(build, postPassword, { invalidatesTags: ["me"] }),
    mailLink: sendsBody(build, postMailLink),
    signInByLink: sends(build, postSignInByLink, { of: (token: string) => ({ body: { token } }) }),
    lookAtLink: reads(build, postLookAtLink, {
      of: (token: string) => ({ body: { token } }),
      keepUnusedDataFor: 0,
    }),
    choosePassword: sendsBody(build, postChoosePassword),
    helped: reads(build, getHelped, { providesTags: ["sources"] }),
    addRows: sends(build, postRows, {
      of: ({ id, rows }: { id: string; rows: string[][] }) => ({ params: { id }, body: { rows } }),
      invalidatesTags: ["sources", "rounds", "board"],
    }),
  }),
});
