import { useParts } from "../../api/queries";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { PartLines } from "../../components/PartLines";

/** All good parts that are here, with the donor each came out of. */
export default function PartsPage() {
  const parts = useParts();
  return (
    <Page title="Good parts" lead="Kept from donors for another job. Say where one went when it is used.">
      {!parts.data ? (
        <Waiting query={parts} what="the parts" />
      ) : parts.data.parts.length === 0 ? (
        <Quiet>
          <p>None yet. A part is kept on the page of the donor it comes from.</p>
        </Quiet>
      ) : (
        <Sheet>
          <PartLines parts={parts.data.parts} withDonor />
        </Sheet>
      )}
    </Page>
  );
}
