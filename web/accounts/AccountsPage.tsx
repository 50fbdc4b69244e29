import { Accounts } from "../staff/Accounts";
import { PageHead } from "../ui/Page";
import { t } from "../texts/accounts";

/** The accounts page of a site coordinator; coordinators have it under House. */
export function AccountsPage() {
  return (
    <>
      <PageHead title={t("accounts.accounts")} line={t("accounts.staffOfYourSite")} />
      <Accounts />
    </>
  );
}
