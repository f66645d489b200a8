/** One picture from the camera of this machine, as JPEG; null where there is none or it was not allowed. */
export async function takePicture(): Promise<Blob | null> {
  if (typeof navigator.mediaDevices === "undefined") return null;
  const stream = await navigator.mediaDevices
    .getUserMedia({ video: { facingMode: "environment", width: { ideal: 1600 } } })
    .catch(() => null);
  if (!stream) return null;
  try {
    const video = document.createElement("video");
    video.muted = true;
    video.srcObject = stream;
    await video.play();
    const canvas = document.createElement("canvas");
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext("2d")!.drawImage(video, 0, 0);
    return await new Promise((resolve) => canvas.toBlob(resolve, "image/jpeg", 0.85));
  } finally {
    for (const track of stream.getTracks()) track.stop();
  }
}
