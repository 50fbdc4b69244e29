import { t } from "../texts/accounts";
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
} from "@amigo/contract/twoStep";
import type { TwoStepFor } from "@amigo/core/access/twoStep";
import { api, type Fault } from "./api";
import { type BodyOf, asks, reads, sends, sendsBody } from "./request";

type Codes = z.output<typeof postRecoveryCodes.answer>;
type Json = z.output<typeof postPasskeyOptions.answer>["options"];

/** What a device has answered, as the server takes it: it is JSON already, of a shape that only its standard names (WebAuthn, section 5.1.8). */
function asJson(answer: object): BodyOf<typeof postSignInPasskey>["answer"] {
  return { ...answer } as BodyOf<typeof postSignInPasskey>["answer"];
}

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
    twoStep: reads(build, getTwoStep, { providesTags: ["me"] }),
    beginAuthenticator: sends(build, postAuthenticator, {
      of: (password: string) => ({ body: { password } }),
    }),
    confirmAuthenticator: sends(build, postConfirmAuthenticator, {
      of: (code: string) => ({ body: { code } }),
    }),
    removeAuthenticator: sends(build, postRemoveAuthenticator, {
      of: (password: string) => ({ body: { password } }),
      invalidatesTags: ["me", "house"],
    }),
    renewRecoveryCodes: sends(build, postRecoveryCodes, {
      of: (password: string) => ({ body: { password } }),
    }),
    addPasskey: build.mutation<Codes, { password: string; name: string }>({
      queryFn: async ({ password, name }, _api, _extra, ask) => {
        const begun = await ask(asks(postPasskeyOptions, { body: { password } }));
        if (begun.error !== undefined) return { error: begun.error as Fault };
        const { options } = begun.data as { options: Json };
        const answer = await byBrowser(() => startRegistration({ optionsJSON: options as never }));
        if ("error" in answer) return answer;
        const stored = await ask(
          asks(postPasskey, { body: { name, answer: asJson(answer.data) } }),
        );
        return stored.error === undefined
          ? { data: stored.data as Codes }
          : { error: stored.error as Fault };
      },
    }),
    removePasskey: sends(build, postRemovePasskey, {
      of: ({ id, password }: { id: string; password: string }) => ({
        params: { id },
        body: { password },
      }),
      invalidatesTags: ["me", "house"],
    }),
    makeMailPassword: sendsBody(build, postMailProgram, { invalidatesTags: ["me"] }),
    endMailPassword: sends(build, deleteMailProgram, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["me"],
    }),
    giveCode: sends(build, postSignInCode, { of: (code: string) => ({ body: { code } }) }),
    usePasskey: build.mutation<unknown, void>({
      queryFn: async (_, _api, _extra, ask) => {
        const begun = await ask(asks(postSignInPasskeyOptions, {}));
        if (begun.error !== undefined) return { error: begun.error as Fault };
        const { options } = begun.data as { options: Json };
        const answer = await byBrowser(() =>
          startAuthentication({ optionsJSON: options as never }),
        );
        if ("error" in answer) return answer;
        const done = await ask(asks(postSignInPasskey, { body: { answer: asJson(answer.data) } }));
        return done.error === undefined ? { data: done.data } : { error: done.error as Fault };
      },
    }),
    cancelSignIn: sends(build, postSignInCancel, { invalidatesTags: ["me"] }),
    resetTwoStep: sends(build, postResetTwoStep, {
      of: (id: string) => ({ params: { id } }),
      invalidatesTags: ["house"],
    }),
    askForTwoStep: sends(build, putTwoStepFor, {
      of: (twoStep: TwoStepFor) => ({ body: { twoStep } }),
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
