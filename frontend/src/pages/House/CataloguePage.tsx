import { useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Catalogue } from "../../api/client";
import { useCatalogue, useSession } from "../../api/queries";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { day, FAMILY_WORDS } from "../../words";
import { figuresSaid } from "../Packs/Plan/parts";
import { PARTS, type Part } from "./catalogueParts";
import { PackPartForm } from "./PackPartForm";
import { RowForm } from "./RowForm";

type Line = { key: string; name: string; facts: string; note: string; isActive: boolean };

/** What the cafe knows beforehand: everybody reads it, coordinators extend it. */
export default function CataloguePage() {
  const catalogue = useCatalogue();
  const session = useSession();
  const [search, setSearch] = useSearchParams();
  const part = (search.get("part") ?? "models") as Part;
  const [editing, setEditing] = useState<string | null>(null);
  const mayChange = session.data?.person?.role === "coordinator";
  const choose = (next: Part) => {
    setEditing(null);
    setSearch({ part: next }, { replace: true });
  };
  return (
    <Page
      title="Catalogue"
      wide
      lead={mayChange ? undefined : "A coordinator extends it. What cells were told before stays with them."}
    >
      <Switch
        label="What"
        value={part}
        onChange={choose}
        options={Object.entries(PARTS).map(([key, { word }]) => [key as Part, word] as const)}
      />
      {!catalogue.data ? (
        <Waiting query={catalogue} what="the catalogue" />
      ) : (
        <TwoColumns $left={1.4} $below>
          <Lines>
            {linesOf(catalogue.data, part).map((line) => (
              <Row key={line.key} $gone={!line.isActive}>
                <div>
                  <strong>{line.name}</strong> {!line.isActive && "(no longer used)"}
                  <p>{line.facts}</p>
                  {line.note && <Small>{line.note}</Small>}
                </div>
                {mayChange && editing !== line.key && (
                  <Button kind="quiet" aria-label={`Change ${line.name}`} onPress={() => setEditing(line.key)}>
                    Change
                  </Button>
                )}
                {mayChange && editing === line.key && (
                  <Form catalogue={catalogue.data} part={part} rowKey={line.key} onDone={() => setEditing(null)} />
                )}
              </Row>
            ))}
          </Lines>
          {mayChange && (
            <Sheet aria-label="Add one">
              <h2>{PARTS[part].add}</h2>
              <Form key={part} catalogue={catalogue.data} part={part} rowKey={null} onDone={() => undefined} />
            </Sheet>
          )}
        </TwoColumns>
      )}
    </Page>
  );
}

const Form = (props: Parameters<typeof RowForm>[0]) =>
  props.part === "pack-parts" ? <PackPartForm {...props} /> : <RowForm {...props} />;

function linesOf(catalogue: Catalogue, part: Part): Line[] {
  switch (part) {
    case "models":
      return catalogue.models.map((model) => ({
        key: String(model.id),
        name: model.name,
        facts: [
          model.size_code,
          `${model.rated_capacity_mah} mAh`,
          FAMILY_WORDS[model.family],
          model.cut_off_v !== null && `down to ${model.cut_off_v} V`,
          model.most_charge_ma !== null && `charge at most ${model.most_charge_ma} mA`,
          model.most_discharge_ma !== null && `discharge at most ${model.most_discharge_ma} mA`,
        ]
          .filter(Boolean)
          .join(", "),
        note: `${model.source}${model.sheet_date ? `, ${day(model.sheet_date)}` : ""}`,
        isActive: model.is_active,
      }));
    case "formats":
      return catalogue.formats.map((format) => ({
        key: format.code,
        name: `${format.code}, ${format.name}`,
        facts:
          format.thickness_mm === null
            ? `${format.width_mm} mm across, ${format.length_mm} mm long`
            : `${format.thickness_mm} by ${format.width_mm} by ${format.length_mm} mm`,
        note: format.note,
        isActive: format.is_active,
      }));
    case "chemistries":
      return catalogue.chemistries.map((chemistry) => ({
        key: chemistry.code,
        name: chemistry.name,
        facts: `${FAMILY_WORDS[chemistry.family]}${chemistry.full_v ? `, full at ${chemistry.full_v} V` : ""}`,
        note: chemistry.note,
        isActive: chemistry.is_active,
      }));
    case "donor-kinds":
      return catalogue.donor_kinds.map((kind) => ({
        key: kind.code,
        name: kind.name,
        facts: `${kind.cells_least} to ${kind.cells_most} cells, ${kind.sizes}`,
        note: kind.cautions.join(" "),
        isActive: kind.is_active,
      }));
    case "pack-parts":
      return catalogue.pack_parts.map((row) => {
        const asked = catalogue.parts_asked.find((each) => each.kind === row.kind);
        return {
          key: String(row.id),
          name: row.name,
          facts: `${asked?.name ?? ""}: ${asked ? figuresSaid(asked, row.figures) : ""}`,
          note: row.note,
          isActive: row.is_active,
        };
      });
    case "tray-sizes":
      return catalogue.tray_sizes.map((size) => ({
        key: String(size.id),
        name: size.name,
        facts: `${size.rows} rows of ${size.columns}: ${size.rows * size.columns} places`,
        note: "",
        isActive: size.is_active,
      }));
  }
}

const Lines = styled.ul`background: ${({ theme }) => theme.color.paper};`;
const Row = styled.li<{ $gone: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  justify-content: space-between;
  gap: var(--near) var(--block);
  padding: var(--gap) var(--sheet);
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
  opacity: ${({ $gone }) => ($gone ? 0.75 : 1)};
  > div { flex: 1 1 16rem; }
`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
