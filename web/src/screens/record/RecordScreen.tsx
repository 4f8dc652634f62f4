import { useParams } from "react-router";

import { useRecord } from "../../api/hooks";
import { Failed, Loading } from "../../parts/states";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { Changes } from "./Changes";
import { Faults } from "./Faults";
import { Masses } from "./Masses";
import { Person } from "./Person";
import { PracticeList } from "./PracticeList";
import { Restrictions } from "./Restrictions";
import { Traits } from "./Traits";

export default function RecordScreen() {
  const id = Number(useParams().id);
  const record = useRecord(id);
  if (record.isPending) return <Loading what="the record" />;
  if (record.isError) return <Failed error={record.error} again={() => void record.refetch()} />;
  const r = record.data;
  return (
    <div className="page">
      <h1>{r.athlete_name}</h1>
      <AthleteTabs id={id} />
      <div className="row g-3">
        <div className="col-lg-5">
          <Person key={r.athlete_id} record={r} />
          <Traits key={`traits-${r.athlete_id}`} record={r} />
          <Masses record={r} />
        </div>
        <div className="col-lg-7">
          <Restrictions record={r} />
          <Faults record={r} />
          <Changes id={id} />
          <PracticeList record={r} />
        </div>
      </div>
    </div>
  );
}
