import { isGoingOn, useTable } from "../../api/testers";
import { ButtonLink } from "../../components/Button";
import { Notice } from "../../components/Notice";

/** That a cell lies in a slot of a tester, and whether something runs on it; nothing where it lies elsewhere. */
export function InSlot({ number }: { number: string }) {
  const slot = useTable().data?.slots.find((each) => each.cell?.number === number);
  if (!slot) return null;
  return (
    <Notice kind="ask">
      <p>
        It lies in <strong>{slot.name}</strong> ({slot.number})
        {slot.run && isGoingOn(slot.run)
          ? ", and a program runs on it: nobody else charges or measures it meanwhile."
          : "."}
      </p>
      <ButtonLink to={`/table/${slot.number}`} $kind="plain">
        To the slot
      </ButtonLink>
    </Notice>
  );
}
