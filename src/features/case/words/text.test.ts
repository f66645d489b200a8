import { placeWords } from "@/text/names";

test.each([
  ["stick.left.click", "left stick click"],
  ["bumper.right", "right bumper"],
  ["pad.up", "pad up"],
  ["face.south", "face south"],
  ["touch.left.click", "left touch click"],
  ["mic-upper", "mic upper"],
])("%s is called %s", (id, words) => {
  expect(placeWords(id)).toBe(words);
});
