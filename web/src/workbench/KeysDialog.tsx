import { Kbd, Modal, Table } from '@mantine/core';
import { KEYS } from './keys';

export function KeysDialog({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  return (
    <Modal opened={opened} onClose={onClose} title="Keys">
      <Table>
        <Table.Tbody>
          {KEYS.map(([key, what]) => (
            <Table.Tr key={key}>
              <Table.Td>
                <Kbd>{key}</Kbd>
              </Table.Td>
              <Table.Td>{what}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      <p className="quiet">
        With a treatment in focus, the arrow keys move it by a frame, with Shift by five.
      </p>
    </Modal>
  );
}
