import { catalogue } from "./catalogue";

export const say = catalogue("charts", {
  angle: "angle",
  reach: "reach",
  edgeOfTheStickOverThe:
    "Edge of the stick over the angle: reaches from {low} to {high}; grade A reaches at least {percent} on the straight sides.",
  currentFromYToY2MA: "current from {y} to {y2} mA",
  voltageFromYToY2V: "voltage from {y} to {y2} V",
  rowsRowsOverLongestMinutesWords: "{rows} rows over {longest} minutes: {words}.",
  voltsDotted: "volts (dotted)",
  marginFromMarginAtABid:
    "Margin from {margin} at a bid of nothing to {margin2} at {bid}; chance of a loss from {loss} to {loss2} %{at}.",
  atTheHighestBidMarginAnd: "; at the highest bid {margin} and {loss} %",
  expectedMargin: "expected margin",
  chanceOfALoss: "chance of a loss",
  highestBid: "highest bid",
  chanceOfALoss2: "chance of a loss, %",
  forecastAgainstFactOfUnitsClosed:
    "Forecast against fact of {units} closed units: {better} came better than forecast, {units2} worse.",
  asForecast: "as forecast",
  forecastMargin: "forecast margin",
  marginAsItCame: "margin as it came",
  stillHoldingByDaysSinceThe: "Still holding, by days since the sale. {routes}.",
  nameHoldingAtDayUntil: "{name}: {holding} % at day {until}",
  daysSinceTheSale: "days since the sale",
  stillHolding: "still holding, %",
  chanceThatTheBatchIsTaken:
    "Chance that the batch is taken: {taken} % with 5 % bad pieces, {taken2} % with 25 %{seen}.",
  seenHereShareBadBetweenLow: "; seen here {share} % bad, between {low} and {high} %",
  thisBatchNineTimesOfTen: "this batch, nine times of ten",
  badPieces: "bad pieces, %",
  taken: "taken, %",
  questionSeriesAtTheEndAxis: "{question} {series} at the end ({axis}).",
  right: "right",
  up: "up",
  left: "left",
  down: "down",
  tagForecastCame: "{tag}: forecast {forecast}, came {came}",
});
