import { useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import styled from "styled-components";
import type { Family, Schemas } from "../api/client";
import { sizeQuery } from "../api/queries";
import { figure } from "../words";
import { Button } from "./Button";
import { ClaimPicture } from "./ClaimPicture";
import { Notice } from "./Notice";

type Reading = Schemas["SizeReadingOut"];
type Props = {
  code: string;
  family: Family | null;
  claimMah: number | null;
  massG?: number | null;
  /** Called with the outline that somebody chose where the code can be read in more than one way. */
  onChoose?: (reading: Reading) => void;
  /** Called with the usual size that an outline by caliper is most likely. */
  onName?: (code: string) => void;
};

/** What a typed size means, asked where it can mean several things, and whether the claim can be. */
export function SizeMeaning({ code, family, claimMah, massG = null, onChoose, onName }: Props) {
  const typed = useDeferredValue(code.trim());
  const size = useQuery({
    ...sizeQuery({
      code: typed,
      family: family ?? undefined,
      claim_mah: claimMah ?? undefined,
      mass_g: massG ?? undefined,
    }),
    enabled: typed.length >= 4,
  });
  if (typed.length < 4 || size.isError) return null;
  // The usual line's room is kept: a button below would slip away under the finger that presses it.
  if (!size.data) return <Small aria-hidden>{"\u00a0"}</Small>;
  const { readings, ambiguous, remarks, usual, suspicion, claim } = size.data;
  return (
    <Box>
      {ambiguous ? (
        <Notice kind="ask">
          <strong>So many digits are not printed by any rule. Hold a ruler to it; likeliest:</strong>
          <Row>
            {readings.map((reading) =>
              onChoose ? (
                <Button key={words(reading)} onPress={() => onChoose(reading)}>
                  {words(reading)}
                </Button>
              ) : (
                <span key={words(reading)}>{words(reading)}</span>
              ),
            )}
          </Row>
        </Notice>
      ) : (
        readings[0] && <Small>{words(readings[0])}</Small>
      )}
      {usual && onName && (
        <Row>
          <Button onPress={() => onName(usual.code)}>Call it {usual.code}, the nearest usual size</Button>
          <Small>or leave it: it is a size of its own then.</Small>
        </Row>
      )}
      {suspicion && <Notice kind="error">{suspicion}</Notice>}
      {remarks.map((remark) => (
        <Small key={remark}>{remark}</Small>
      ))}
      {claim && <ClaimPicture claim={claim} />}
    </Box>
  );
}

function words(reading: Reading): string {
  return reading.shape === "cylinder"
    ? `round, ${millimetres(reading.width_mm)} mm across, ${figure(reading.length_mm, 1)} mm long`
    : `flat, ${figure(reading.thickness_mm ?? 0, 1)} by ${millimetres(reading.width_mm)} by ${millimetres(reading.length_mm)} mm`;
}

const millimetres = (side: number) => figure(side, Number.isInteger(side) ? 0 : 1);

const Box = styled.div`display: grid; gap: var(--near);`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near); margin-top: var(--slit);`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
