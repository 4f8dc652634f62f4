import { lazy, Suspense, type ComponentType } from "react";
import { Navigate, Route, Routes } from "react-router";

import { useMay, useMe } from "./api/hooks";
import { Frame } from "./parts/Frame";
import { Screen } from "./parts/Screen";
import { Empty, Failed, Loading } from "./parts/states";
import { AthleteScreen } from "./screens/athlete/AthleteScreen";
import { AthletesScreen } from "./screens/athletes/AthletesScreen";
import { SessionEntry, SessionScreen } from "./screens/session/SessionScreen";
import { FirstRun } from "./screens/FirstRun";
import { SignIn } from "./screens/SignIn";
import { TodayScreen } from "./screens/today/TodayScreen";
import { WeekScreen } from "./screens/week/WeekScreen";

const TapersScreen = lazy(() => import("./screens/tapers/TapersScreen"));
const ContestScreen = lazy(() => import("./screens/contest/ContestScreen"));
const CalendarScreen = lazy(() => import("./screens/calendar/CalendarScreen"));
const ArrangementsScreen = lazy(() => import("./screens/arrangements/ArrangementsScreen"));
const SeasonScreen = lazy(() => import("./screens/season/SeasonScreen"));
const FloorScreen = lazy(() => import("./screens/floor/FloorScreen"));
const FloorEntry = lazy(() => import("./screens/floor/FloorEntry"));
const MethodsScreen = lazy(() => import("./screens/methods/MethodsScreen"));
const StandingScreen = lazy(() => import("./screens/standing/StandingScreen"));
const TestsScreen = lazy(() => import("./screens/tests/TestsScreen"));
const TestScreen = lazy(() => import("./screens/tests/TestScreen"));
const RecordScreen = lazy(() => import("./screens/record/RecordScreen"));
const ImportScreen = lazy(() => import("./screens/athletes/ImportScreen"));
const SettingsScreen = lazy(() => import("./screens/settings/SettingsScreen"));
const ShorthandScreen = lazy(() => import("./screens/settings/ShorthandScreen"));
const LibraryScreen = lazy(() => import("./screens/library/LibraryScreen"));
const TemplatesScreen = lazy(() => import("./screens/templates/TemplatesScreen"));
const SquadSeasonScreen = lazy(() => import("./screens/squad/SquadSeasonScreen"));
const SquadWeekScreen = lazy(() => import("./screens/squad/SquadWeekScreen"));
const SquadTableScreen = lazy(() => import("./screens/squad/SquadTableScreen"));
const ArrivalScreen = lazy(() => import("./screens/room/ArrivalScreen"));
const LanesScreen = lazy(() => import("./screens/room/LanesScreen"));
const RackLinkScreen = lazy(() => import("./screens/room/LanesScreen").then((m) => ({ default: m.RackLinkScreen })));
const BoardScreen = lazy(() => import("./screens/room/BoardScreen"));
const ClockScreen = lazy(() => import("./screens/room/ClockScreen"));
const WelcomeScreen = lazy(() => import("./screens/WelcomeScreen"));
const DataScreen = lazy(() => import("./screens/data/DataScreen"));
const SquadsScreen = lazy(() => import("./screens/athletes/SquadsScreen"));
const PeopleScreen = lazy(() => import("./screens/people/PeopleScreen"));
const MineScreen = lazy(() => import("./screens/mine/MineScreen"));
const MySession = lazy(() => import("./screens/mine/MySession"));
const ReadyScreen = lazy(() => import("./screens/room/ReadyScreen"));
const HistoryScreen = lazy(() => import("./screens/history/HistoryScreen"));
const LearningScreen = lazy(() => import("./screens/learning/LearningScreen"));
const AfterScreen = lazy(() => import("./screens/learning/AfterScreen"));
const ReportScreen = lazy(() => import("./screens/learning/ReportScreen"));
const DayScreen = lazy(() => import("./screens/learning/DayScreen"));
const LearningEntry = lazy(() => import("./screens/learning/LearningEntry"));
const AllSquadsScreen = lazy(() => import("./screens/calendar/AllSquadsScreen"));
const SquadCalendarScreen = lazy(() => import("./screens/calendar/SquadCalendarScreen"));
const TrialsScreen = lazy(() => import("./screens/trials/TrialsScreen"));
const TrialScreen = lazy(() => import("./screens/trials/TrialScreen"));
const SensorsScreen = lazy(() => import("./screens/sensors/SensorsScreen"));
const TestDayScreen = lazy(() => import("./screens/tests/TestDayScreen"));
const ReviewScreen = lazy(() => import("./screens/floor/ReviewScreen"));

/** Every screen inside: its path, its title in the browser's tab, and what draws it. */
const SCREENS: [path: string, title: string, screen: ComponentType][] = [
  ["", "Today", First],
  ["athletes", "Athletes", AthletesScreen],
  ["athletes/:id", "Athlete", AthleteScreen],
  ["athletes/import", "Import athletes", ImportScreen],
  ["athletes/:id/standing", "Where one stands", StandingScreen],
  ["athletes/:id/tests", "Tests", TestsScreen],
  ["tests/:id", "Guided test", TestScreen],
  ["athletes/:id/record", "Details", RecordScreen],
  ["athletes/:id/season", "Season", SeasonScreen],
  ["athletes/:id/tapers", "Tapers", TapersScreen],
  ["athletes/:id/contest", "Competition", ContestScreen],
  ["athletes/:id/calendar", "Calendar", CalendarScreen],
  ["arrangements", "Season models", ArrangementsScreen],
  ["athletes/:id/week/:start?", "Week", WeekScreen],
  ["athletes/:id/session", "Session", SessionEntry],
  ["athletes/:id/session/:day/:key", "Session", SessionScreen],
  ["athletes/:id/session/:day/:key/methods/:line", "Ways to load a line", MethodsScreen],
  ["athletes/:id/session/:day/:key/squad", "Session of the squad", SquadTableScreen],
  ["calendar", "Calendar", AllSquadsScreen],
  ["history", "What was done", HistoryScreen],
  ["learning", "Learning", LearningEntry],
  ["learning/day/:day", "A day looked back on", DayScreen],
  ["learning/:whose/:id", "Learning", LearningScreen],
  ["report/:whose/:id", "Report", ReportScreen],
  ["athletes/:id/after/:entry", "After the competition", AfterScreen],
  ["squads/:id/calendar", "Calendar of the squad", SquadCalendarScreen],
  ["squads/:id/season", "Season of the squad", SquadSeasonScreen],
  ["squads/:id/test-day", "Test day", TestDayScreen],
  ["squads/:id/week/:start?", "Week of the squad", SquadWeekScreen],
  ["library", "Library", LibraryScreen],
  ["templates", "Templates", TemplatesScreen],
  ["settings/:room?", "Settings", SettingsScreen],
  ["people", "People", PeopleScreen],
  ["squads", "Squads", SquadsScreen],
  ["data", "Data and backups", DataScreen],
  ["shorthand", "How a line is written", ShorthandScreen],
  ["athletes/:id/trials", "Individual tests", TrialsScreen],
  ["trials/:id", "Individual test", TrialScreen],
  ["sensors", "Sensors", SensorsScreen],
  ["room/:id", "Arrival", ArrivalScreen],
  ["room/:id/racks", "Racks", LanesScreen],
  ["room/:id/racks/:rack", "Rack", LanesScreen],
  ["room/:id/clock", "Clock", ClockScreen],
  ["room/:id/board", "Board", BoardScreen],
  ["floor", "Floor", FloorEntry],
  ["floor/:id", "Session on the floor", FloorScreen],
  ["floor/:id/review", "Review", ReviewScreen],
];

/** What an athlete with an account of their own may open. */
const OWN_SCREENS: [path: string, title: string, screen: ComponentType][] = [
  ["", "My training", MineScreen],
  ["session/:day/:key", "My session", MySession],
  ["report/:whose/:id", "My last weeks", ReportScreen],
  ["floor/:id", "Session on the floor", FloorScreen],
  ["floor/:id/review", "Review", ReviewScreen],
];

export function App() {
  const me = useMe();
  if (me.isPending) return <Loading what="who is signed in" />;
  if (me.isLoadingError) return <Failed error={me.error} again={() => void me.refetch()} />;
  return (
    <Suspense fallback={<Loading what="the screen" />}>
      <Routes>
        <Route
          path="ready/:token"
          element={
            <Screen title="How are you today">
              <ReadyScreen />
            </Screen>
          }
        />
        <Route
          path="rack/:token"
          element={
            <Screen title="Rack">
              <RackLinkScreen />
            </Screen>
          }
        />
        <Route
          path="welcome/:token"
          element={
            <Screen title="Welcome">
              <WelcomeScreen />
            </Screen>
          }
        />
        <Route
          path="*"
          element={
            me.data.signed_in ? (
              <Inside screens={me.data.role === "athlete" ? OWN_SCREENS : SCREENS} />
            ) : me.data.is_empty ? (
              <Screen title="A new centre">
                <FirstRun />
              </Screen>
            ) : (
              <Screen title="Sign in">
                <SignIn />
              </Screen>
            )
          }
        />
      </Routes>
    </Suspense>
  );
}

function Nowhere() {
  return (
    <div className="page">
      <Empty title="Page not found.">Use the menu at the top.</Empty>
    </div>
  );
}

/** The first page of each: what they may see of today, or who there is. */
function First() {
  return useMay()("training") ? <TodayScreen /> : <Navigate to="/athletes" replace />;
}

function Inside({ screens }: { screens: typeof SCREENS }) {
  return (
    <Routes>
      <Route element={<Frame />}>
        {screens.map(([path, title, Drawn]) => (
          <Route
            key={path}
            {...(path ? { path } : { index: true })}
            element={
              <Screen title={title}>
                <Drawn />
              </Screen>
            }
          />
        ))}
        <Route path="today" element={<Navigate to="/" replace />} />
        <Route
          path="*"
          element={
            <Screen title="No such page">
              <Nowhere />
            </Screen>
          }
        />
      </Route>
    </Routes>
  );
}
