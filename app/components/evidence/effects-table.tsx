import ButtonBase from "@mui/material/ButtonBase";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useState } from "react";
import {
  percent,
  plain,
  pValue,
  referenceName,
  type EffectEvidence,
  type Evidence,
} from "../../../core";
import { drawnOf, IntervalBar, scaleOf } from "../interval-bar";
import { Segments } from "../ui/segments";
import { inUnits, unitChoices, wordsOf, type Units } from "./effect-words";
import { Forest } from "./forest";
import { ScreenHead, Spacer } from "../ui/layout";

interface Props {
  evidence: Evidence;
  selected: string | null;
  select: (id: string) => void;
}

/** Every effect that exists, grouped by predictor and outcome; estimate, SE, interval and p in one row. */
export function EffectsTable({ evidence, selected, select }: Props) {
  const [units, setUnits] = useState<Units>("raw");
  const [form, setForm] = useState<"table" | "forest">("table");
  const listed = evidence.effects.filter((e) => inUnits(e, units));
  const groups = new Map<string, EffectEvidence[]>();
  for (const effect of listed) {
    const key =
      effect.from && effect.to
        ? `${effect.label.split(" on ")[0]} on ${effect.to}`
        : "stated quantities";
    groups.set(key, [...(groups.get(key) ?? []), effect]);
  }
  const level = percent(evidence.settings.level);
  return (
    <section aria-labelledby="every-effect">
      <ScreenHead as="div" className="section-head">
        <h2 id="every-effect">Every effect</h2>
        <Spacer />
        <Segments label="Units" value={units} choices={unitChoices(evidence)} choose={setUnits} />
        <Segments
          label="Table or picture"
          value={form}
          choices={[
            ["table", "table"],
            ["forest", "forest"],
          ]}
          choose={setForm}
        />
      </ScreenHead>
      {listed.length === 0 && <p className="quiet">No such quantity exists in this theory.</p>}
      {form === "forest" && <Forest effects={listed} evidence={evidence} units={units} />}
      {form === "table" &&
        [...groups].map(([group, effects]) => (
          <Table className="numbers effects" key={group}>
            <caption>{group}</caption>
            <TableHead>
              <TableRow>
                <TableCell scope="col">effect</TableCell>
                <TableCell scope="col">estimate</TableCell>
                <TableCell scope="col">SE</TableCell>
                <TableCell scope="col">{level} % CI lower</TableCell>
                <TableCell scope="col">upper</TableCell>
                <TableCell scope="col">p</TableCell>
                <TableCell scope="col">rests on</TableCell>
                <TableCell scope="col" aria-label="Interval to scale" />
              </TableRow>
            </TableHead>
            <TableBody>
              {effects.map((e) => (
                <TableRow key={e.id} className={selected === e.id ? "selected" : undefined}>
                  <TableCell>
                    <ButtonBase
                      className="row-button"
                      aria-pressed={selected === e.id}
                      onClick={() => select(e.id)}
                    >
                      {wordsOf(e, units, evidence)}
                    </ButtonBase>
                  </TableCell>
                  {e.shown ? (
                    <>
                      <TableCell>{plain(e.estimate)}</TableCell>
                      <TableCell>{plain(e.shown.se)}</TableCell>
                      <TableCell>{plain(e.shown.lower)}</TableCell>
                      <TableCell>{plain(e.shown.upper)}</TableCell>
                      <TableCell>{pValue(e.shown.p, e.shown.pIsBound)}</TableCell>
                      <TableCell className="quiet">{referenceName(e.shown)}</TableCell>
                      <TableCell>
                        <IntervalBar
                          interval={drawnOf(e)}
                          scale={scaleOf(
                            effects
                              .filter((x) => x.kind !== "ratio_to_direct" || effects.length === 1)
                              .map(drawnOf),
                          )}
                          width={110}
                        />
                      </TableCell>
                    </>
                  ) : (
                    <TableCell colSpan={7} className="quiet withheld">
                      {e.withheld}
                    </TableCell>
                  )}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        ))}
    </section>
  );
}
