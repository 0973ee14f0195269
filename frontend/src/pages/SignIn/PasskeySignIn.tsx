import { useMutation } from "@tanstack/react-query";

import { canUsePasskeys, signInByPasskey } from "../../api/passkeys";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { enter } from "./enter";

/** Without name and password, where the browser can do that. */
export function PasskeySignIn() {
  const signIn = useMutation({
    mutationFn: signInByPasskey,
    onSuccess: enter,
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
