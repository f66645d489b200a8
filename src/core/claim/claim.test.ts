import { rimFromClaim } from "./claim";

const controls = [
  { id: "face.south", kind: "button", name: "face south" },
  { id: "face.east", kind: "button", name: "face east" },
  { id: "bumper.left", kind: "button", name: "left bumper" },
  { id: "stick.left", kind: "stick", name: "left stick" },
];

test.each([
  ["the left bumper only works on its edge", ["bumper.left"]],
  ["buttons tilt when pressed on the rim", ["face.south", "face.east"]],
  ["face east, when pressed on the side, does nothing", ["face.east"]],
  ["left stick drifts", []],
  ["left bumper dead", []],
])("%j asks for the rim of %j", (claim, ids) => expect(rimFromClaim(claim, controls)).toEqual(ids));
