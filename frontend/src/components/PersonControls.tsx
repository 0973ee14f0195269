import { useMutation } from "@tanstack/react-query";
import { answer, api, keepToken } from "../api/client";
import { queryClient, sessionQuery, useSession } from "../api/queries";
import { useThemeChoice } from "../theme/ThemeChoice";
import { Button } from "./Button";

/** Who is signed in, light or dark, and the way out. */
export function PersonControls() {
  const { data } = useSession();
  const { scheme, toggle } = useThemeChoice();
  const signOut = useMutation({
    mutationFn: () => answer(() => api.DELETE("/api/session")),
    onSuccess: (session) => {
      queryClient.clear();
      queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
    },
  });
  return (
    <>
      <span>
        {data?.person?.name}
        {data?.person?.role === "coordinator" ? ", coordinator" : ""}
      </span>
      <Button kind="quiet" onPress={toggle}>
        {scheme === "light" ? "Dark" : "Light"}
      </Button>
      <Button kind="quiet" onPress={() => signOut.mutate()}>
        Sign out
      </Button>
    </>
  );
}
