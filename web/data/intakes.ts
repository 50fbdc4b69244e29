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
import { reads, sends, sendsBody } from "./request";

export type IntakeContent = IntakePage["content"];
export type IntakeChoices = z.output<typeof getIntakeChoices.answer>;
export type IntakePeople = { account: string; role: "lead" | "helper" }[];

export const intakesApi = api.injectEndpoints({
  endpoints: (build) => ({
    intakes: reads(build, getIntakes, { providesTags: ["intakes"] }),
    intakeChoices: reads(build, getIntakeChoices, { providesTags: ["board", "house"] }),
    intake: reads(build, getIntake, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["intakes"],
    }),
    makeIntake: sendsBody(build, postIntake, { invalidatesTags: ["intakes"] }),
    changeIntake: sends(build, putIntake, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        content: IntakeContent;
        people: IntakePeople;
        version: number;
      }) => ({ params: { id }, body }),
      invalidatesTags: ["intakes"],
    }),
    writeCells: sends(build, postIntakeCells, {
      of: ({ id, changes }: { id: string; changes: CellChange[] }) => ({
        params: { id },
        body: { changes },
      }),
      invalidatesTags: ["intakes"],
    }),
    removeRows: sends(build, postIntakeRemove, {
      of: ({ id, ...body }: { id: string; rows: string[]; back: boolean }) => ({
        params: { id },
        body,
      }),
      invalidatesTags: ["intakes"],
    }),
    approveRows: sends(build, postIntakeApproval, {
      of: ({
        id,
        ...body
      }: {
        id: string;
        rows: { id: string; version: number }[];
        approve: boolean;
      }) => ({ params: { id }, body }),
      invalidatesTags: ["intakes", "board", "people"],
    }),
    intakeHistory: reads(build, getIntakeHistory, {
      of: (id: string) => ({ params: { id } }),
      providesTags: ["intakes"],
    }),
    setWatch: sendsBody(build, putWatch, { invalidatesTags: ["intakes", "board"] }),
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
