import { keepToken, type Session } from "../../api/client";
import { queryClient, sessionQuery } from "../../api/queries";
import { forgetSeen } from "../../offline/seen";

/** Somebody is in: what somebody else saw on this device before is forgotten. */
export async function enter(session: Session): Promise<void> {
  await forgetSeen();
  queryClient.setQueryData(sessionQuery.queryKey, keepToken(session));
  // Kept as it would be by asking, so that a reload without the network knows who is here.
  await queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey });
}
