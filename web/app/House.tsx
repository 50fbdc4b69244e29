import { Suspense } from "react";
import { Navigate, Route, Routes, useLocation, useParams } from "react-router";
import type { Me } from "@amigo/contract/accounts";
import { staffLanguage } from "@amigo/language/staff";
import { speakAs } from "@amigo/language/texts";
import { isShownIn } from "../texts/staff";
import { may, type HouseRole } from "@amigo/core/access/may";
import { FaultLine, Loading, PageHead } from "../ui/Page";
import { localeOf } from "@amigo/core/text/place";
import { MeContext } from "../data/me";
import { writeDatesAs } from "../ui/time";
import { useMeQuery, useStartPageQuery } from "../data/accounts";
import { fetched } from "../ui/fetched";
import { Shell } from "./Shell";
import { t } from "../texts/app";

const AccountsPage = fetched(() => import("../accounts/AccountsPage"), "AccountsPage");
const AddRowsPage = fetched(() => import("../sources/AddRowsPage"), "AddRowsPage");
const AllListsPage = fetched(() => import("../lists/AllListsPage"), "AllListsPage");
const BoardPage = fetched(() => import("../board/BoardPage"), "BoardPage");
const ChangesPage = fetched(() => import("../changes/ChangesPage"), "ChangesPage");
const DatePage = fetched(() => import("../dates/DatePage"), "DatePage");
const DatesPage = fetched(() => import("../dates/DatesPage"), "DatesPage");
const EditDatePage = fetched(() => import("../dates/DateForm"), "EditDatePage");
const FormPage = fetched(() => import("../forms/FormPage"), "FormPage");
const FormsPage = fetched(() => import("../forms/FormsPage"), "FormsPage");
const HeldPage = fetched(() => import("../mail/HeldPage"), "HeldPage");
const HousePage = fetched(() => import("../house/HousePage"), "HousePage");
const ImportPage = fetched(() => import("../dates/ImportPage"), "ImportPage");
const IntakePage = fetched(() => import("../intakes/IntakePage"), "IntakePage");
const IntakesPage = fetched(() => import("../intakes/IntakesPage"), "IntakesPage");
const JournalPage = fetched(() => import("../house/Journal"), "JournalPage");
const ListPage = fetched(() => import("../list/ListPage"), "ListPage");
const MailPage = fetched(() => import("../mail/MailPage"), "MailPage");
const NewDatePage = fetched(() => import("../dates/DateForm"), "NewDatePage");
const NewFormPage = fetched(() => import("../forms/NewFormPage"), "NewFormPage");
const NewListPage = fetched(() => import("../lists/NewListPage"), "NewListPage");
const OwnAccountPage = fetched(() => import("../accounts/OwnAccountPage"), "OwnAccountPage");
const PeoplePage = fetched(() => import("../people/PeoplePage"), "PeoplePage");
const PersonPage = fetched(() => import("../people/PersonPage"), "PersonPage");
const PostPage = fetched(() => import("../mail/PostPage"), "PostPage");
const PrivateListPage = fetched(() => import("../mail/PrivateListPage"), "PrivateListPage");
const ReachPage = fetched(() => import("../reach/ReachPage"), "ReachPage");
const RequestsPage = fetched(() => import("../requests/RequestsPage"), "RequestsPage");
const SetUpPage = fetched(() => import("../start/SetUpPage"), "SetUpPage");
const SetUpTwoStepPage = fetched(() => import("../accounts/TwoStepPanel"), "SetUpTwoStepPage");
const SignInPage = fetched(() => import("../start/SignInPage"), "SignInPage");
const SourcesPage = fetched(() => import("../sources/SourcesPage"), "SourcesPage");
const TryAllPage = fetched(() => import("../lists/TryAllPage"), "TryAllPage");
const WritePage = fetched(() => import("../mail/WritePage"), "WritePage");

/** Pages that people often begin with, by the first part of their address: fetched beside the first answers. */
const BEGINNINGS: Readonly<Record<string, { load(): Promise<unknown> }>> = {
  "": BoardPage,
  changes: ChangesPage,
  dates: DatesPage,
  house: HousePage,
  intakes: IntakesPage,
  lists: ListPage,
  mail: MailPage,
  people: PeoplePage,
  reach: ReachPage,
  sources: SourcesPage,
};
BEGINNINGS[window.location.pathname.split("/")[1] ?? ""]?.load().catch(() => undefined);

/** From the address that a mail gives to the post's page. */
function ToPost() {
  const { id = "" } = useParams();
  return <Navigate to={`/mail/${id}`} replace />;
}

/** The language whose dates and numbers are shown: the interface's, but the house's own where that has no interface. */
function localLanguage({ language, speaks }: Me): string {
  return staffLanguage(language) === undefined && speaks === "en" ? language : speaks;
}

/** The places of the house, for whoever is signed in. */
export function House() {
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
  if (!isShownIn(me.data.speaks)) return <Loading what={t("app.theHouse")} />;
  const locale = localeOf({ ...me.data, language: localLanguage(me.data) });
  writeDatesAs(locale);
  speakAs({ language: me.data.speaks, locale });
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
