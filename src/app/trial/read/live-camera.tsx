import { useEffect, useRef, useState } from 'react';
import type { Problem } from '../../../core/outcome/index.ts';
import { problemWords } from '../../../core/outcome/index.ts';
import type { Words } from '../../../core/say/index.ts';
import { aimInWorker } from '../../../workers/index.ts';
import { Box, Button, HStack, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';

/** Whether the browser lets a page show the camera: on the machine itself, or over https. */
export const canShowCamera = (): boolean => Boolean(navigator.mediaDevices?.getUserMedia);

/** What the camera shows is looked at no larger than this: enough to find the card, and quick. */
const LOOKED_AT_PX = 1100;

type Aim =
  | { readonly is: 'starting' }
  | { readonly is: 'looking' }
  | { readonly is: 'good' }
  | { readonly is: 'not yet'; readonly problem: Problem }
  | { readonly is: 'none' };

/** The camera's picture with a word on what to do until it would be read; taken by one press, whatever it says. */
export function LiveCamera({
  onTake,
  close,
  instead,
}: {
  onTake: (photo: File) => void;
  close: () => void;
  /** Leaves it to the phone's own camera. */
  instead: () => void;
}) {
  const { plan } = useTrial();
  const video = useRef<HTMLVideoElement>(null);
  const [aim, setAim] = useState<Aim>({ is: 'starting' });

  // biome-ignore lint/correctness/useExhaustiveDependencies: one camera for one plan
  useEffect(() => {
    let stream: MediaStream | undefined;
    let isOver = false;
    const look = async () => {
      while (!isOver) {
        const frame = video.current && frameOf(video.current, LOOKED_AT_PX);
        if (!frame) await pause(100);
        else {
          const {
            width: w,
            height: h,
            data,
          } = frame.getContext('2d')!.getImageData(0, 0, frame.width, frame.height);
          const would = await aimInWorker({ w, h, data }, plan);
          if (!isOver) setAim(would.ok ? { is: 'good' } : { is: 'not yet', problem: would.problem });
          await pause(150);
        }
      }
    };
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: 'environment', width: { ideal: 4096 }, height: { ideal: 3072 } } })
      .then(async given => {
        stream = given;
        if (isOver || !video.current) return stop(given);
        video.current.srcObject = given;
        await video.current.play();
        setAim({ is: 'looking' });
        await look();
      })
      .catch(() => {
        if (!isOver) setAim({ is: 'none' });
      });
    return () => {
      isOver = true;
      if (stream) stop(stream);
    };
  }, []);

  const take = async () => {
    const frame = video.current && frameOf(video.current, Number.POSITIVE_INFINITY);
    if (!frame) return;
    const blob = await new Promise<Blob | null>(done => frame.toBlob(done, 'image/jpeg', 0.95));
    if (blob) onTake(new File([blob], 'camera.jpg', { type: 'image/jpeg' }));
    close();
  };

  const isGood = aim.is === 'good';
  return (
    <Box mt="3" role="region" aria-label="Camera">
      <Box position="relative" bg="black" borderWidth="4px" borderColor={isGood ? 'tide.solid' : 'border'}>
        <video
          ref={video}
          muted
          playsInline
          style={{ width: '100%', maxHeight: '60vh', objectFit: 'contain' }}
        />
      </Box>
      <Text fontSize="1.3rem" fontWeight="700" mt="2" aria-live="polite" color={isGood ? 'tide.fg' : 'fg'}>
        <Said>{aimWords(aim)}</Said>
      </Text>
      <HStack mt="2" gap="3" wrap="wrap">
        {aim.is !== 'none' && (
          <Button
            size="xl"
            colorPalette="buoy"
            variant={isGood ? 'solid' : 'outline'}
            disabled={aim.is === 'starting'}
            onClick={() => void take()}
          >
            {isGood ? 'Take it' : 'Take it as it is'}
          </Button>
        )}
        <Button size="xl" variant="outline" onClick={instead}>
          Use the phone’s own camera
        </Button>
        <Button size="xl" variant="ghost" onClick={close}>
          Close
        </Button>
      </HStack>
    </Box>
  );
}

function aimWords(aim: Aim): Words {
  switch (aim.is) {
    case 'starting':
      return 'The camera starts.';
    case 'looking':
      return 'Looking for the card.';
    case 'good':
      return 'Good: card found, level, sharp, nothing shines.';
    case 'not yet':
      return problemWords(aim.problem);
    case 'none':
      return 'The camera cannot be shown here: it is switched off for this page, or there is none.';
  }
}

/** What the video shows now, no longer than `side`; nothing before it has begun. */
function frameOf(video: HTMLVideoElement, side: number): HTMLCanvasElement | undefined {
  const { videoWidth: w, videoHeight: h } = video;
  if (!w || !h) return undefined;
  const scale = Math.min(1, side / Math.max(w, h));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(w * scale);
  canvas.height = Math.round(h * scale);
  canvas.getContext('2d')!.drawImage(video, 0, 0, canvas.width, canvas.height);
  return canvas;
}

const pause = (ms: number) => new Promise(done => setTimeout(done, ms));
const stop = (stream: MediaStream) => {
  for (const track of stream.getTracks()) track.stop();
};
