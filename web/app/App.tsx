import { isForMembers } from "./isForMembers";
import { Suspense } from "react";
import { Route, Routes, useLocation } from "react-router";
import { Loading } from "../ui/Page";
import { fetched } from "../ui/fetched";
import { t } from "../texts/app";

const EnterPage = fetched(() => import("../start/LinkPages"), "EnterPage");
const MemberApp = fetched(() => import("../member/MemberApp"), "MemberApp");
const PasswordPage = fetched(() => import("../start/LinkPages"), "PasswordPage");
const House = fetched(() => import("./House"), "House");

// In dev only: the build leaves out what stands behind a condition that is false.
const WidgetsPage = import.meta.env.DEV
  ? fetched(() => import("../widgets/WidgetsPage"), "WidgetsPage")
  : () => null;

/** Fetches what the address in the window needs before anything can be shown. */
export function begin(): Promise<unknown> {
  return (isForMembers(window.location.pathname) ? MemberApp : House).load();
}

/** The pages, for whoever is signed in; before that the sign-in page, or the set-up of an empty house. */
export function App() {
  const { pathname } = useLocation();
  if (isForMembers(pathname))
    return (
      <Suspense fallback={<Loading what={t("app.thePage")} />}>
        <MemberApp />
      </Suspense>
    );
  return (
    <Suspense fallback={<Loading what={t("app.thePage")} />}>
      <Routes>
        <Route path="password/:token" element={<PasswordPage />} />
        <Route path="enter/:token" element={<EnterPage />} />
        {import.meta.env.DEV && <Route path="widgets" element={<WidgetsPage />} />}
        <Route path="*" element={<House />} />
      </Routes>
    </Suspense>
  );
}
