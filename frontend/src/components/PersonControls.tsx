import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, api, keepToken } from "../api/client";
import { queryClient, sessionQuery, useSession } from "../api/queries";
import { forgetSeen } from "../offline/seen";
import { useThemeChoice } from "../theme/ThemeChoice";
import { Button } from "./Button";

/** Who is signed in, light or dark, and the way out. */
export function PersonControls() {
  const { data } = useSession();
  const { scheme, toggle } = useThemeChoice();
  const signOut = useMutation({
    mutationFn: () => answer(() => api.DELETE("/api/session")),
    onSuccess: (session) => {
      void forgetSeen();
      // The session itself stays: whoever shows the pages hangs on it, and shows the door at once.
      queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
      queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== sessionQuery.queryKey[0] });
    },
  });
  return (
    <>
      <Link to="/me">
        {data?.person?.name}
        {data?.person?.role === "coordinator" ? ", coordinator" : ""}
      </Link>
      <Button kind="quiet" onPress={toggle}>
        {scheme === "light" ? "Dark" : "Light"}
      </Button>
      <Button kind="quiet" onPress={() => signOut.mutate()}>
        Sign out
      </Button>
    </>
  );
}
