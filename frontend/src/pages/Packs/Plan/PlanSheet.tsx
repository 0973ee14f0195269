import type { UseQueryResult } from "@tanstack/react-query";
import styled from "styled-components";
import type { Pack, Schemas } from "../../../api/client";
import { Sheet, Waiting } from "../../../components/Page";
import { CheckList } from "./CheckList";
import { PartsSheet } from "./PartsSheet";
import { RunSheet } from "./RunSheet";

/** The plan of a pack on paper: what it will really do beside what is checked, and what it is built from. */
export function PlanSheet({ pack, checks }: { pack: Pack; checks: UseQueryResult<Schemas["ChecksOut"]> }) {
  return (
    <>
      {checks.data ? (
        <Beside>
          <Sheet as="div">
            <RunSheet pack={pack} checks={checks.data} />
          </Sheet>
          <Sheet as="div">
            <CheckList pack={pack} checks={checks.data} />
          </Sheet>
        </Beside>
      ) : (
        <Waiting query={checks} what="the checks" />
      )}
      <Sheet>
        <PartsSheet pack={pack} />
      </Sheet>
    </>
  );
}

const Beside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: var(--sheet);
  align-items: start;
  @media (max-width: 1020px) { grid-template-columns: minmax(0, 1fr); }
`;
