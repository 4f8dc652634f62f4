import { Link, Navigate } from "react-router";

import { useNames } from "../../api/hooks";
import { lastAthlete } from "../../parts/Frame";
import { Empty, Failed, Loading } from "../../parts/states";

/** The squad of the athlete one was last with, else the first. */
export default function LearningEntry() {
  const squads = useNames();
  if (squads.isPending) return <Loading what="the squads" />;
  if (squads.isLoadingError) return <Failed error={squads.error} again={() => void squads.refetch()} />;
  const last = lastAthlete();
  const squad = squads.data.find((s) => s.athletes.some((a) => a.id === last)) ?? squads.data[0];
  if (squad) return <Navigate to={`/learning/squad/${squad.id}`} replace />;
  return (
    <div className="page">
      <h1>Learning</h1>
      <Empty title="No athletes yet.">
        <Link className="btn btn-primary" to="/athletes">
          Add or import athletes
        </Link>
      </Empty>
    </div>
  );
}
