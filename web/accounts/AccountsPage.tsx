import { Accounts } from "../ui/Accounts";
import { PageHead } from "../ui/Page";

/** The accounts page of a site coordinator; coordinators have it under House. */
export function AccountsPage() {
  return (
    <>
      <PageHead title="Accounts" line="Staff of your site" />
      <Accounts />
    </>
  );
}
