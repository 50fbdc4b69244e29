import { useState, useEffect } from "react";
import { type FormContent, useFormPreviewQuery } from "../data/forms";
import { t } from "../texts/forms";
import { FaultLine } from "../ui/Page";

/** After how many milliseconds without a change the preview follows. */
const RESTS = 300;

/** The form as families see it, at the width of a phone. */
export function Preview({ content, language }: { content: FormContent; language: string }) {
  const [shown, setShown] = useState({ content, language });
  useEffect(() => {
    const timer = setTimeout(() => setShown({ content, language }), RESTS);
    return () => clearTimeout(timer);
  }, [content, language]);
  const { currentData, data, error } = useFormPreviewQuery(shown);
  return (
    <section
      aria-label={t("forms.asFamiliesSeeIt")}
      className="flex min-w-0 flex-col lg:min-h-0 gap-2"
    >
      {error !== undefined && currentData === undefined && <FaultLine error={error} />}
      <iframe
        title={t("forms.theFormAsFamiliesSee")}
        sandbox="allow-same-origin"
        srcDoc={data?.html ?? ""}
        className="w-full flex-1 rounded-lg border border-hair bg-panel"
      />
    </section>
  );
}
