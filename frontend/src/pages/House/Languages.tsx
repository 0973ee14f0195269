import { useMutation } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api, type Session } from "../../api/client";
import { useSession } from "../../api/queries";
import { ProblemNotice } from "../../components/Notice";
import { Pick } from "../../components/Pick";

const AS_ASKED = "as-asked";

/** What this person is told in, and what the house prints in. Where there is one language nobody is asked. */
export function Languages() {
  const { data } = useSession();
  const own = useMutation({
    mutationFn: (language: string | null) =>
      answer<Session>(() => api.PUT("/api/session/language", { body: { language } })),
    // All that stands on the page was said in the other one.
    onSuccess: () => window.location.reload(),
  });
  const printed = useMutation({
    mutationFn: (language: string) => answer<Session>(() => api.PUT("/api/print-language", { body: { language } })),
    onSuccess: () => window.location.reload(),
  });
  if (!data || data.languages.length < 2) return null;
  const options = data.languages.map((language) => [language, nameOf(language)] as const);
  return (
    <Both>
      <Pick
        label="Language"
        value={data.is_language_chosen ? data.language : AS_ASKED}
        options={[[AS_ASKED, "As the browser asks"], ...options]}
        onChange={(language) => own.mutate(language === AS_ASKED ? null : language)}
      />
      {data.person?.role === "coordinator" && (
        <Pick
          label="Labels, lists and sheets in"
          value={data.print_language}
          options={options}
          onChange={(language) => printed.mutate(language)}
        />
      )}
      <ProblemNotice problem={own.error ?? printed.error} />
    </Both>
  );
}

/** A language by its own name. */
const nameOf = (language: string) => new Intl.DisplayNames([language], { type: "language" }).of(language) ?? language;

const Both = styled.div`display: flex; flex-wrap: wrap; gap: var(--block); margin-top: var(--sheet); > * { flex: 0 1 18rem; }`;
