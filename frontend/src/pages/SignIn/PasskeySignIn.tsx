import { useMutation } from "@tanstack/react-query";
import { keepToken } from "../../api/client";
import { canUsePasskeys, signInByPasskey } from "../../api/passkeys";
import { queryClient, sessionQuery } from "../../api/queries";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";

/** Without name and password, where the browser can do that. */
export function PasskeySignIn() {
  const signIn = useMutation({
    mutationFn: signInByPasskey,
    onSuccess: (session) => queryClient.setQueryData(sessionQuery.queryKey, keepToken(session)),
  });
  if (!canUsePasskeys()) return null;
  return (
    <>
      <ProblemNotice problem={signIn.error} />
      <p>
        <Button onPress={() => signIn.mutate()} isDisabled={signIn.isPending}>
          Sign in with a passkey
        </Button>
      </p>
    </>
  );
}
