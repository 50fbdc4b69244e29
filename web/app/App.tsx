import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation, useParams } from "react-router";
import { writeTextsAs } from "@amigo/language/say";
import { may, type HouseRole } from "@amigo/core/access/may";
import { AccountsPage } from "../accounts/AccountsPage";
import { SetUpTwoStepPage } from "../accounts/TwoStepPanel";
import { OwnAccountPage } from "../accounts/OwnAccountPage";
import { BoardPage } from "../board/BoardPage";
import { ChangesPage } from "../changes/ChangesPage";
import { AddRowsPage } from "../sources/AddRowsPage";
import { JournalPage } from "../house/Journal";
import { ListPage } from "../list/ListPage";
import { AllListsPage } from "../lists/AllListsPage";
import { TryAllPage } from "../lists/TryAllPage";
import { HeldPage } from "../mail/HeldPage";
import { MailPage } from "../mail/MailPage";
import { PostPage } from "../mail/PostPage";
import { PrivateListPage } from "../mail/PrivateListPage";
import { PeoplePage } from "../people/PeoplePage";
import { RequestsPage } from "../requests/RequestsPage";
import { EnterPage, PasswordPage } from "../start/LinkPages";
import { SignInPage } from "../start/SignInPage";
import { FaultLine, Loading, PageHead } from "../ui/Page";
import { localeOf } from "@amigo/core/text/place";
import { MeContext } from "../data/me";
import { writeDatesAs } from "../ui/time";
import { useMeQuery, useStartPageQuery } from "../data/accounts";
import { Shell } from "./Shell";
import { t } from "../texts/t";

// What brings a large library along, or is opened now and then, is fetched when it is first opened.
const WritePage = lazy(() =>
  import("../mail/WritePage").then((module) => ({ default: module.WritePage })),
);
const SourcesPage = lazy(() =>
  import("../sources/SourcesPage").then((module) => ({ default: module.SourcesPage })),
);
const HousePage = lazy(() =>
  import("../house/HousePage").then((module) => ({ default: module.HousePage })),
);
const FormsPage = lazy(() =>
  import("../forms/FormsPage").then((module) => ({ default: module.FormsPage })),
);
const FormPage = lazy(() =>
  import("../forms/FormPage").then((module) => ({ default: module.FormPage })),
);
const NewFormPage = lazy(() =>
  import("../forms/NewFormPage").then((module) => ({ default: module.NewFormPage })),
);
const DatesPage = lazy(() =>
  import("../dates/DatesPage").then((module) => ({ default: module.DatesPage })),
);
const DatePage = lazy(() =>
  import("../dates/DatePage").then((module) => ({ default: module.DatePage })),
);
const ImportPage = lazy(() =>
  import("../dates/ImportPage").then((module) => ({ default: module.ImportPage })),
);
const NewDatePage = lazy(() =>
  import("../dates/DateForm").then((module) => ({ default: module.NewDatePage })),
);
const EditDatePage = lazy(() =>
  import("../dates/DateForm").then((module) => ({ default: module.EditDatePage })),
);
const IntakesPage = lazy(() =>
  import("../intakes/IntakesPage").then((module) => ({ default: module.IntakesPage })),
);
const IntakePage = lazy(() =>
  import("../intakes/IntakePage").then((module) => ({ default: module.IntakePage })),
);
const MemberApp = lazy(() =>
  import("../member/MemberApp").then((module) => ({ default: module.MemberApp })),
);
const PersonPage = lazy(() =>
  import("../people/PersonPage").then((module) => ({ default: module.PersonPage })),
);
const NewListPage = lazy(() =>
  import("../lists/NewListPage").then((module) => ({ default: module.NewListPage })),
);
const SetUpPage = lazy(() =>
  import("../start/SetUpPage").then((module) => ({ default: module.SetUpPage })),
);
const ReachPage = lazy(() =>
  import("../reach/ReachPage").then((module) => ({ default: module.ReachPage })),
);

// In dev only: the build leaves out what stands behind a condition that is false.
const WidgetsPage = import.meta.env.DEV
  ? lazy(() => import("../widgets/WidgetsPage").then((module) => ({ default: module.WidgetsPage })))
  : () => null;

/** The pages, for whoever is signed in; before that the sign-in page, or the set-up of an empty house. */
export function App() {
  const { pathname } = useLocation();
  if (pathname === "/member" || pathname.startsWith("/member/"))
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

/** From the address that a mail gives to the post's page. */
function ToPost() {
  const { id = "" } = useParams();
  return <Navigate to={`/mail/${id}`} replace />;
}

/** The places of the house, for whoever is signed in. */
function House() {
  const { pathname } = useLocation();
  const start = useStartPageQuery();
  const me = useMeQuery(undefined, { skip: start.data?.setUp !== true });
  if (start.error !== undefined)
    return (
      <div className="mx-auto max-w-md p-10">
        <FaultLine error={start.error} />
      </div>
    );
  if (start.data === undefined || (start.data.setUp && me.isLoading))
    return <Loading what={t("app.theHouse")} />;
  if (!start.data.setUp)
    return (
      <Suspense fallback={<Loading what={t("app.thePage")} />}>
        <SetUpPage needsCode={start.data.needsCode} />
      </Suspense>
    );
  // The address of a post in its mail leads whoever has no account to their member page.
  if (me.data === undefined && pathname.startsWith("/posts/"))
    return <Navigate to={`/member${pathname}`} replace />;
  if (
    me.data === undefined ||
    (me.error !== undefined && "status" in me.error && me.error.status === 401)
  )
    return <SignInPage start={start.data} />;
  const { role } = me.data;
  writeDatesAs(localeOf(me.data));
  writeTextsAs(localeOf(me.data));
  if (me.data.mustSetUpTwoStep)
    return (
      <MeContext value={me.data}>
        <SetUpTwoStepPage />
      </MeContext>
    );
  return (
    <MeContext value={me.data}>
      <Shell>
        <Suspense fallback={<Loading what={t("app.thePage")} />}>
          <Places role={role} />
        </Suspense>
      </Shell>
    </MeContext>
  );
}

/** The pages of the house, as far as a role may open them. */
function Places({ role }: { role: HouseRole }) {
  return (
    <Routes>
      <Route index element={may(role, "see the board") ? <BoardPage /> : <AddRowsPage />} />
      <Route path="account" element={<OwnAccountPage />} />
      {may(role, "see the journal") && <Route path="journal" element={<JournalPage />} />}
      {may(role, "see accounts") && <Route path="accounts" element={<AccountsPage />} />}
      {may(role, "see lists") && (
        <>
          <Route path="lists" element={<AllListsPage />} />
          {may(role, "change lists") && <Route path="lists/new" element={<NewListPage />} />}
          <Route path="lists/try" element={<TryAllPage />} />
          <Route path="lists/:id" element={<ListPage />} />
          <Route path="mail" element={<MailPage />} />
          <Route path="mail/write" element={<WritePage />} />
          <Route path="mail/private/:id" element={<PrivateListPage />} />
          <Route path="mail/held" element={<HeldPage />} />
          <Route path="requests" element={<RequestsPage />} />
          <Route path="mail/:id" element={<PostPage />} />
          <Route path="posts/:id" element={<ToPost />} />
        </>
      )}
      {may(role, "see rounds") && <Route path="changes" element={<ChangesPage />} />}
      {may(role, "see rounds") && <Route path="changes/:number" element={<ChangesPage />} />}
      {may(role, "see people") && <Route path="reach" element={<ReachPage />} />}
      {may(role, "see people") && <Route path="people" element={<PeoplePage />} />}
      {may(role, "see people") && <Route path="people/:id" element={<PersonPage />} />}
      {may(role, "see sources") && <Route path="sources" element={<SourcesPage />} />}
      {may(role, "see sources") && <Route path="sources/:id" element={<SourcesPage />} />}
      {may(role, "make forms") && (
        <>
          <Route path="forms" element={<FormsPage />} />
          <Route path="forms/new" element={<NewFormPage />} />
          <Route path="forms/:id" element={<FormPage />} />
        </>
      )}
      {may(role, "see dates") && (
        <>
          <Route path="dates" element={<DatesPage />} />
          <Route path="dates/new" element={<NewDatePage />} />
          {may(role, "make dates") && <Route path="dates/import" element={<ImportPage />} />}
          <Route path="dates/:id" element={<DatePage />} />
          <Route path="dates/:id/change" element={<EditDatePage />} />
        </>
      )}
      <Route path="intakes" element={<IntakesPage />} />
      <Route path="intakes/:id" element={<IntakePage />} />
      {may(role, "see the house") && <Route path="house" element={<HousePage />} />}
      <Route path="sign-in" element={<Navigate to="/" replace />} />
      <Route
        path="*"
        element={
          <>
            <PageHead title={t("app.pageNotFound")} />
            <p>{t("app.itMayHaveMovedOr")}</p>
          </>
        }
      />
    </Routes>
  );
}
