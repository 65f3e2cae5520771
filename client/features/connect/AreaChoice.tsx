// Which area a camera belongs to; nothing to choose where there is but one.

import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';

type Props = { areas: readonly { id: string; name: string }[]; area: string; choose: (id: string) => void };

export function AreaChoice({ areas, area, choose }: Props) {
  if (areas.length < 2) return null;
  return (
    <Row>
      <Words tone="second">Area</Words>
      {areas.map((a) => (
        <Button key={a.id} words={a.name} pressed={a.id === area} onPress={() => choose(a.id)} />
      ))}
    </Row>
  );
}
