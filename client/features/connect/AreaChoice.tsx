// Which area a camera belongs to; nothing to choose where there is but one.

import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { OneOf } from '../../ui/Choices';
import { Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = { areas: readonly { id: string; name: string }[]; area: string; choose: (id: string) => void };

export function AreaChoice({ areas, area, choose }: Props) {
  if (areas.length < 2) return null;
  return (
    <Row>
      <Words tone="second">{texts.area}</Words>
      <OneOf label={texts.area} choices={areas.map((a) => ({ value: a.id, words: a.name }))} value={area} choose={choose} />
    </Row>
  );
}

type FormProps<T extends FieldValues> = { areas: Props['areas']; control: Control<T>; name: FieldPath<T> };

export const FormArea = <T extends FieldValues>({ areas, control, name }: FormProps<T>) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange } }) => <AreaChoice areas={areas} area={value as string} choose={onChange} />}
  />
);
