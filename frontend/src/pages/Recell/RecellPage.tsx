import { useState } from "react";
import { Switch } from "../../components/Fields";
import { Page } from "../../components/Page";
import { InPlace } from "./InPlace";
import { StandIns } from "./StandIns";

const WAYS: ["cell" | "others", string][] = [
  ["cell", "Another cell of its own kind"],
  ["others", "In the place of alkaline, nickel or lead"],
];

/** A good device with a poor cell: what of the shelf fits, how much longer it runs, and what must not be done. */
export default function RecellPage() {
  const [way, setWay] = useState<"cell" | "others">("cell");
  return (
    <Page title="A device gets another cell" lead="The device is good, its cell is not." wide>
      <Switch label="What goes in" value={way} onChange={setWay} options={WAYS} />
      {way === "cell" ? <StandIns /> : <InPlace />}
    </Page>
  );
}
