import { useState } from "react";
import { useNavigate } from "react-router";

import { api, need, problemOf, type Problem } from "./client";

/** Opens the room of a squad for today, or goes to the one that is open. */
export function useOpenRoom(): { open: (squadId: number) => Promise<void>; problem: Problem | null } {
  const navigate = useNavigate();
  const [problem, setProblem] = useState<Problem | null>(null);
  const open = (squad_id: number) =>
    need(api.POST("/api/room", { body: { squad_id } })).then(
      (room) => void navigate(`/room/${room.id}`),
      (e: unknown) => setProblem(problemOf(e)),
    );
  return { open, problem };
}
