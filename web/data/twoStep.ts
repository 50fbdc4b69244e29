import { t } from "../texts/t";
import { startAuthentication, startRegistration } from "@simplewebauthn/browser";
import type { z } from "zod";
import {
  deleteMailProgram,
  getTwoStep,
  postAuthenticator,
  postConfirmAuthenticator,
  postMailProgram,
  postPasskey,
  postPasskeyOptions,
  postRecoveryCodes,
  postRemoveAuthenticator,
  postRemovePasskey,
  postResetTwoStep,
  postSignInCancel,
  postSignInCode,
  postSignInPasskey,
  postSignInPasskeyOptions,
  putTwoStepFor,
  type TwoStep,
} from "@amigo/contract/twoStep";
import type { TwoStepFor } from "@amigo/core/access/twoStep";
import { api, type Fault } from "./api";

type Codes = z.output<typeof postRecoveryCodes.answer>;
type Json = z.output<typeof postPasskeyOptions.answer>["options"];

export const {
  useTwoStepQuery,
  useBeginAuthenticatorMutation,
  useConfirmAuthenticatorMutation,
  useRemoveAuthenticatorMutation,
  useRenewRecoveryCodesMutation,
  useAddPasskeyMutation,
  useRemovePasskeyMutation,
  useMakeMailPasswordMutation,
  useEndMailPasswordMutation,
  useGiveCodeMutation,
  useUsePasskeyMutation,
  useCancelSignInMutation,
  useResetTwoStepMutation,
  useAskForTwoStepMutation,
} = api.injectEndpoints({
  endpoints: (build) => ({
    twoStep: build.query<TwoStep, void>({
      query: () => ({ endpoint: getTwoStep }),
      providesTags: ["me"],
    }),
    beginAuthenticator: build.mutation<z.output<typeof postAuthenticator.answer>, string>({
      query: (password) => ({ endpoint: postAuthenticator, body: { password } }),
    }),
    confirmAuthenticator: build.mutation<Codes, string>({
      query: (code) => ({ endpoint: postConfirmAuthenticator, body: { code } }),
    }),
    removeAuthenticator: build.mutation<unknown, string>({
      query: (password) => ({ endpoint: postRemoveAuthenticator, body: { password } }),
      invalidatesTags: ["me", "house"],
    }),
    renewRecoveryCodes: build.mutation<Codes, string>({
      query: (password) => ({ endpoint: postRecoveryCodes, body: { password } }),
    }),
    addPasskey: build.mutation<Codes, { password: string; name: string }>({
      queryFn: async ({ password, name }, _api, _extra, ask) => {
        const begun = await ask({ endpoint: postPasskeyOptions, body: { password } });
        if (begun.error !== undefined) return { error: begun.error as Fault };
        const { options } = begun.data as { options: Json };
        const answer = await byBrowser(() => startRegistration({ optionsJSON: options as never }));
        if ("error" in answer) return answer;
        const stored = await ask({ endpoint: postPasskey, body: { name, answer: answer.data } });
        return stored.error === undefined
          ? { data: stored.data as Codes }
          : { error: stored.error as Fault };
      },
    }),
    removePasskey: build.mutation<unknown, { id: string; password: string }>({
      query: ({ id, password }) => ({
        endpoint: postRemovePasskey,
        params: { id },
        body: { password },
      }),
      invalidatesTags: ["me", "house"],
    }),
    makeMailPassword: build.mutation<{ password: string }, { name: string; password: string }>({
      query: (body) => ({ endpoint: postMailProgram, body }),
      invalidatesTags: ["me"],
    }),
    endMailPassword: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: deleteMailProgram, params: { id } }),
      invalidatesTags: ["me"],
    }),
    giveCode: build.mutation<unknown, string>({
      query: (code) => ({ endpoint: postSignInCode, body: { code } }),
    }),
    usePasskey: build.mutation<unknown, void>({
      queryFn: async (_, _api, _extra, ask) => {
        const begun = await ask({ endpoint: postSignInPasskeyOptions });
        if (begun.error !== undefined) return { error: begun.error as Fault };
        const { options } = begun.data as { options: Json };
        const answer = await byBrowser(() =>
          startAuthentication({ optionsJSON: options as never }),
        );
        if ("error" in answer) return answer;
        const done = await ask({ endpoint: postSignInPasskey, body: { answer: answer.data } });
        return done.error === undefined ? { data: done.data } : { error: done.error as Fault };
      },
    }),
    cancelSignIn: build.mutation<unknown, void>({
      query: () => ({ endpoint: postSignInCancel }),
      invalidatesTags: ["me"],
    }),
    resetTwoStep: build.mutation<unknown, string>({
      query: (id) => ({ endpoint: postResetTwoStep, params: { id } }),
      invalidatesTags: ["house"],
    }),
    askForTwoStep: build.mutation<unknown, TwoStepFor>({
      query: (twoStep) => ({ endpoint: putTwoStepFor, body: { twoStep } }),
      invalidatesTags: ["house", "me"],
    }),
  }),
});

/** What the browser's own dialog for passkeys answers, or why there is none in a sentence. */
async function byBrowser<Value>(
  ask: () => Promise<Value>,
): Promise<{ data: Value } | { error: Fault }> {
  try {
    return { data: await ask() };
  } catch (failure) {
    const name = failure instanceof Error ? failure.name : "";
    return {
      error: {
        status: 0,
        type: "passkey",
        detail:
          name === "InvalidStateError"
            ? t("accounts.passkeyIsThere")
            : name === "NotAllowedError" || name === "AbortError"
              ? t("accounts.noPasskeyChosen")
              : t("accounts.passkeyFailed"),
        field: undefined,
      },
    };
  }
}
