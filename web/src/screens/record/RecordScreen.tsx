import { useParams } from "react-router";

import { useMay, useRecord } from "../../api/hooks";
import { Failed, Loading } from "../../parts/states";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { Changes } from "./Changes";
import { Faults } from "./Faults";
import { Masses } from "./Masses";
import { Person } from "./Person";
import { PracticeList } from "./PracticeList";
import { Restrictions } from "./Restrictions";
import { SquadMoves } from "./SquadMoves";
import { TakeOut } from "./TakeOut";
import { Traits } from "./Traits";
import { Needs } from "../../parts/Needs";

export default function RecordScreen() {
  const id = Number(useParams().id);
  const record = useRecord(id);
  const isTheirs = useMay()("plan"); // medical staff read this page
  if (record.isPending) return <Loading what="the details" />;
  if (record.isLoadingError) return <Failed error={record.error} again={() => void record.refetch()} />;
  const r = record.data;
  return (
    <div className="page">
      <h1>{r.athlete_name}</h1>
      <AthleteTabs id={id} />
      <div className="row g-3">
        <div className="col-lg-5">
          <fieldset disabled={!isTheirs} className="m-0">
            <Person key={r.athlete_id} record={r} />
          </fieldset>
          <Needs may="plan">
            <SquadMoves key={`squad-${r.athlete_id}`} record={r} />
            <Traits key={`traits-${r.athlete_id}`} record={r} />
          </Needs>
          <Masses record={r} />
        </div>
        <div className="col-lg-7">
          <Restrictions record={r} />
          <Needs may="plan">
            <Faults record={r} />
          </Needs>
          <Needs may="training">
            <Changes id={id} />
          </Needs>
          <fieldset disabled={!isTheirs} className="m-0">
            <PracticeList record={r} />
          </fieldset>
          <Needs may="training">
            <TakeOut id={id} />
          </Needs>
        </div>
      </div>
    </div>
  );
}
