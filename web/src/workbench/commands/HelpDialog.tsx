import { Button, Modal } from '@mantine/core';
import { useAsked } from '../tools/asked';
import { useHelpPages } from './helpPages';

/** One page of help: what it is for, what to listen for, where to begin, and when not to. */
export function HelpDialog() {
  const asked = useAsked((s) => (s.asked?.what === 'help' ? s.asked.text : undefined));
  // Nothing is asked of the server before somebody wants a page.
  return asked === undefined ? null : <Page asked={asked} />;
}

function Page({ asked }: { asked: string }) {
  const ask = useAsked((s) => s.ask);
  const page = useHelpPages().find((one) => one.id === asked);
  return (
    <Modal
      opened={page !== undefined}
      onClose={() => ask(undefined)}
      title={page?.title}
      transitionProps={{ duration: 0 }}
    >
      {page?.parts.map(([lead, text]) => (
        <p key={lead}>
          {lead && <b>{lead}: </b>}
          {text}
        </p>
      ))}
      {page?.open && (
        <Button
          size="compact-sm"
          variant="default"
          onClick={() => {
            ask(undefined);
            page.open!();
          }}
        >
          Show it on the shelf
        </Button>
      )}
    </Modal>
  );
}
