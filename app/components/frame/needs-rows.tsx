import { memo } from "react";
import { Link, Outlet, useLocation } from "react-router";
import type { StudyContext } from "../../analysis/use-study";
import { Empty } from "../ui/empty";
import { SCREENS } from "./stages";

/** Screens that have nothing to show before there are data. */
const OF_DATA: readonly string[] = [
  "screening",
  "evidence",
  "probe",
  "checks",
  "compare",
  "report",
];

/** The screen that is open; where it is about data that are not there yet, what leads there. */
export const ScreenOrWait = memo(function ScreenOrWait({ context }: { context: StudyContext }) {
  const screen = useLocation().pathname.split("/").at(-1)!;
  if (context.study.rows > 0 || !OF_DATA.includes(screen)) return <Outlet context={context} />;
  const [, title = ""] = SCREENS.find(([to]) => to === screen) ?? [];
  return (
    <Empty title={title}>
      There are no data yet. <Link to="data">Declare the variables or bring data</Link>,{" "}
      <Link to="hypotheses">write hypotheses</Link>, and <Link to="plan">plan</Link> how many{" "}
      {context.definition.unit} it takes; this page fills when the data are there.
    </Empty>
  );
});
