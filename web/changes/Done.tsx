import { Link } from "react-router";
import { t } from "../texts/changes";

export function Done({ sentence }: { sentence: string }) {
  return (
    <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
      <b className="text-leaf-ink">✓ </b>
      {sentence}{" "}
      <Link className="text-petrol underline" to="/">
        {t("changes.seeTheBoard")}
      </Link>
    </p>
  );
}
