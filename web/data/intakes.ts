import type { z } from "zod";
import {
  getIntake,
  getIntakeChoices,
  getIntakeHistory,
  getIntakes,
  postIntake,
  postIntakeApproval,
  postIntakeCells,
  postIntakeRemove,
  putIntake,
  putWatch,
  type CellChange,
  type IntakePage,
} from "@amigo/contract/intakes";
import { api } from "./api";

export type IntakeContent = IntakePage["content"];
export type IntakeChoices = z.output<typeof getIntakeChoices.answer>;
export type IntakePeople = { account: string; role: "lead" | "helper" }[];

export const intakesApi = api.injectEndpoints({
  endpoints: (build) => ({
    intakes: build.query<z.output<typeof getIntakes.answer>, void>({
      query: () => ({ endpoint: getIntakes }),
      providesTags: ["intakes"],
    }),
    intakeChoices: build.query<z.output<typeof getIntakeChoices.answer>, void>({
      query: () => ({ endpoint: getIntakeChoices }),
      providesTags: ["board", "house"],
    }),
    intake: build.query<IntakePage, string>({
      query: (id) => ({ endpoint: getIntake, params: { id } }),
      providesTags: ["intakes"],
    }),
    makeIntake: build.mutation<{ id: string }, { content: IntakeContent; people: IntakePeople }>({
      query: (body) => ({ endpoint: postIntake, body }),
      invalidatesTags: ["intakes"],
    }),
    changeIntake: build.mutation<
      { version: number },
      { id: string; content: IntakeContent; people: IntakePeople; version: number }
    >({
      query: ({ id, ...body }) => ({ endpoint: putIntake, params: { id }, body }),
      invalidatesTags: ["intakes"],
    }),
    writeCells: build.mutation<
      z.output<typeof postIntakeCells.answer>,
      { id: string; changes: CellChange[] }
    >({
      query: ({ id, changes }) => ({
        endpoint: postIntakeCells,
        params: { id },
        body: { changes },
      }),
      invalidatesTags: ["intakes"],
    }),
    removeRows: build.mutation<{ changed: number }, { id: string; rows: string[]; back: boolean }>({
      query: ({ id, ...body }) => ({ endpoint: postIntakeRemove, params: { id }, body }),
      invalidatesTags: ["intakes"],
    }),
    approveRows: build.mutation<
      z.output<typeof postIntakeApproval.answer>,
      { id: string; rows: { id: string; version: number }[]; approve: boolean }
    >({
      query: ({ id, ...body }) => ({ endpoint: postIntakeApproval, params: { id }, body }),
      invalidatesTags: ["intakes", "board", "people"],
    }),
    intakeHistory: build.query<z.output<typeof getIntakeHistory.answer>, string>({
      query: (id) => ({ endpoint: getIntakeHistory, params: { id } }),
      providesTags: ["intakes"],
    }),
    setWatch: build.mutation<
      { watching: boolean },
      { what: "intake" | "list"; id: string; watching: boolean }
    >({ query: (body) => ({ endpoint: putWatch, body }), invalidatesTags: ["intakes", "board"] }),
  }),
});

export const {
  useIntakesQuery,
  useIntakeChoicesQuery,
  useIntakeQuery,
  useMakeIntakeMutation,
  useChangeIntakeMutation,
  useWriteCellsMutation,
  useRemoveRowsMutation,
  useApproveRowsMutation,
  useIntakeHistoryQuery,
  useSetWatchMutation,
} = intakesApi;
