import { catalogue } from "./catalogue";

export const say = catalogue("kit", {
  notStated: "not stated",
  day: "day",
  days: "days",
  mMin: " {m} min",
  mMin2: "{m} min",
  showTheNewState: "Show the new state",
  signIn: "Sign in",
  notTested: "not tested",
  notFitted: "not fitted",
  planOfTheProfile: "Plan of the {profile}",
  yourPasswordOnceMore: "Your password, once more",
  thisOpensTheWorkshopToSomebody: "This opens the workshop to somebody else, or takes it out of the house. Show that it is you.",
  yourPassword: "Your password",
  cancel: "Cancel",
  goOn: "Go on",
  digitsOnlySuchAs371: "digits only, such as 3.71",
  notSavedDeedProblem: "Not saved: {deed}. {problem}",
});
