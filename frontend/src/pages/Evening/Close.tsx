import { answer, api, once } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";

/** Ends the evening; refused while something runs. */
export function Close({ children }: { children: string }) {
  const close = useWrite((_: null, key) => answer(() => api.DELETE("/api/evening", { headers: once(key) })));
  return (
    <>
      <Button kind="quiet" onPress={() => close.mutate(null)} isDisabled={close.isPending}>
        {children}
      </Button>
      <ProblemNotice problem={close.error} />
    </>
  );
}
