import { Button, FileInput, Modal, Progress, Select, Stack, TextInput } from '@mantine/core';
import { useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { importFiles, RATES, type ImportStep } from '../reel/importing';

/** Make a reel from a picture and sounds of one's own. */
export function NewReel({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const [name, setName] = useState('');
  const [picture, setPicture] = useState<File | null>(null);
  const [sounds, setSounds] = useState<File[]>([]);
  const [rate, setRate] = useState('picture');
  const [step, setStep] = useState<ImportStep | undefined>();
  const [trouble, setTrouble] = useState('');
  const [stop, setStop] = useState<AbortController | undefined>();
  const go = useNavigate();

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const controller = new AbortController();
    setStop(controller);
    setTrouble('');
    try {
      const chosen = rate === 'picture' ? undefined : rate;
      const made = await importFiles(
        { name, picture, sounds, frameRate: chosen },
        setStep,
        controller.signal,
      );
      await go(`/reels/${made}`);
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setStep(undefined);
      setStop(undefined);
    }
  };

  const close = () => {
    stop?.abort();
    onClose();
  };

  return (
    <Modal opened={opened} onClose={close} title="New reel" closeOnClickOutside={!step}>
      <form onSubmit={(e) => void submit(e)}>
        <Stack>
          <TextInput
            label="Name"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            required
            data-autofocus
          />
          <FileInput
            label="Picture"
            description="A film file; its own sound gets a track, in step."
            placeholder="Choose a file…"
            accept="video/*,.mkv,.mov,.mxf"
            value={picture}
            onChange={setPicture}
            clearable
          />
          <FileInput
            label="Sounds"
            description="Each gets a track."
            placeholder="Choose files…"
            multiple
            value={sounds}
            onChange={setSounds}
            clearable
          />
          <Select
            label="Frame rate"
            data={[{ value: 'picture', label: 'As the picture' }, ...RATES]}
            value={rate}
            onChange={(value) => setRate(value ?? 'picture')}
            allowDeselect={false}
          />
          {step && (
            <div role="status">
              <p style={{ margin: '0 0 6px' }}>{step.text}</p>
              <Progress value={step.share * 100} aria-label="Progress" />
            </div>
          )}
          {trouble && (
            <p className="trouble" role="alert">
              {trouble}
            </p>
          )}
          <Button type="submit" loading={step !== undefined} disabled={!name.trim()}>
            Make the reel
          </Button>
        </Stack>
      </form>
    </Modal>
  );
}
