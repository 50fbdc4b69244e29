import { getBoard, type Board } from "@amigo/contract/board";
import { api } from "./api";

export const { useBoardQuery } = api.injectEndpoints({
  endpoints: (build) => ({
    board: build.query<Board, void>({
      query: () => ({ endpoint: getBoard }),
      providesTags: ["board", "rounds"],
    }),
  }),
});
