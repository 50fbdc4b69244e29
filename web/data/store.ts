import { configureStore } from "@reduxjs/toolkit";
import { useDispatch } from "react-redux";
import { api } from "./api";
import { progress } from "./progress";

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, progress: progress.reducer },
  middleware: (standard) =>
    standard({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});

export const useStore = useDispatch.withTypes<typeof store.dispatch>();
