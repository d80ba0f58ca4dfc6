import type { SeenPhoto } from './photo.worker';

interface Box {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Beside the edge so much of its length is shown: the steel behind it and the mat in front. */
const SHOWN_BESIDE = 0.18;

/** The part of a picture the edge lies in; all of it where nothing was found. */
function boxOf({ shown, shrunk, found }: SeenPhoto): Box {
  const whole = { left: 0, top: 0, width: shown.width, height: shown.height };
  if ('refused' in found) return whole;
  const xs = found.outline.map(({ xPx }) => xPx * shrunk);
  const ys = found.outline.map(({ yPx }) => yPx * shrunk);
  const [left, right, top, bottom] = [
    Math.min(...xs),
    Math.max(...xs),
    Math.min(...ys),
    Math.max(...ys),
  ];
  const beside = SHOWN_BESIDE * Math.max(right - left, bottom - top);
  const box = {
    left: Math.max(0, left - beside),
    top: Math.max(0, top - beside),
  };
  return {
    ...box,
    width: Math.min(shown.width, right + beside) - box.left,
    height: Math.min(shown.height, bottom + beside) - box.top,
  };
}

/** Pixels across of what is drawn: twice what the widest screen gives it. */
const DRAWN_PX = 1400;

/** The picture with the edge found on it, its notches numbered, or a ring about what is wrong. */
export function drawOn(canvas: HTMLCanvasElement, done: SeenPhoto): void {
  const { shown, shrunk, found } = done;
  const box = boxOf(done);
  const scale = DRAWN_PX / box.width;
  canvas.width = DRAWN_PX;
  canvas.height = Math.round(box.height * scale);
  const context = canvas.getContext('2d');
  if (!context) return;
  context.drawImage(
    shown,
    box.left,
    box.top,
    box.width,
    box.height,
    0,
    0,
    canvas.width,
    canvas.height,
  );
  const style = getComputedStyle(canvas);
  context.strokeStyle = style.getPropertyValue('--on-photo');
  context.fillStyle = context.strokeStyle;
  const at = ({ xPx, yPx }: { readonly xPx: number; readonly yPx: number }): [number, number] => [
    (xPx * shrunk - box.left) * scale,
    (yPx * shrunk - box.top) * scale,
  ];
  const ring = (place: Parameters<typeof at>[0], size: number): void => {
    context.beginPath();
    context.arc(...at(place), size, 0, 2 * Math.PI);
    context.stroke();
  };
  if ('refused' in found) {
    context.lineWidth = 6;
    if (found.at) ring(found.at, 60);
    return;
  }
  context.lineWidth = 3;
  context.beginPath();
  found.outline.forEach((place, i) => {
    if (i === 0 || !place.sure) context.moveTo(...at(place));
    else context.lineTo(...at(place));
  });
  context.stroke();
  context.font = `600 34px ${style.fontFamily}`;
  context.textAlign = 'center';
  found.damage.forEach((notch, i) => {
    ring(notch.at, 22);
    const [x, y] = at(notch.at);
    context.fillText(String(i + 1), x, y + 60);
  });
}
