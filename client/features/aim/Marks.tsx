// Marks on the ground whose distance was measured: they solve the tilt, and with two of them the height too.

import { View } from 'react-native';
import { calibrate, distanceOf, groundModel, type Aim } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import { FormField, useForm, type Problems } from '../../ui/Form';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { numberOf } from './aimDraft';
import { texts, metresWords } from './words';

export type Mark = { readonly at: Point; readonly metres: number };

type Props = {
  aim: Aim;
  marks: readonly Mark[];
  setMarks: (marks: readonly Mark[]) => void;
  finger: Point | undefined;
  take: (solved: Aim) => void;
};

/** A solution further off than this is not to be trusted: a mark was measured or touched wrongly. */
const goodWithin = 0.05;

export function Marks({ aim, marks, setMarks, finger, take }: Props) {
  const { control, handleSubmit, reset, formState } = useForm<{ metres: string }>({ metres: '' }, ({ metres }): Problems =>
    (numberOf(metres) ?? 0) > 0 ? {} : { metres: texts.inMetres },
  );
  const solved = marks.length ? calibrate(aim, marks, marks.length > 1 ? 'tilt and height' : 'tilt') : undefined;
  const model = groundModel(aim);
  const add = handleSubmit(({ metres }) => {
    if (!finger) return;
    setMarks([...marks, { at: finger, metres: numberOf(metres)! }]);
    reset();
  });
  return (
    <Card>
      <Words bold heading={2}>
        {texts.checkWithAMeasurement}
      </Words>
      <Words tone="second">{texts.tapAMarkOnThe}</Words>
      <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
        <View style={{ flex: 1 }}>
          <FormField
            control={control}
            name="metres"
            label={texts.measuredM}
            inputMode="decimal"
            onSubmitEditing={() => void add()}
            testID="mark-metres"
          />
        </View>
        <View style={{ paddingTop: 10 }}>
          <Button words={texts.addTheMark} disabled={!finger || !formState.isValid} onPress={() => void add()} testID="add-mark" />
        </View>
      </Row>
      {!finger && <Words size="small">{texts.tapThePictureFirst}</Words>}
      {marks.map((m, i) => (
        <Row key={i} style={{ justifyContent: 'space-between' }}>
          <Words>{texts.measuredCalculated(i + 1, metresWords(m.metres), metresWords(distanceOf(model, [m.at[0], m.at[1], 0, 0])))}</Words>
          <Button glyph="remove" label={texts.removeMark(i + 1)} onPress={() => setMarks(marks.filter((_, k) => k !== i))} />
        </Row>
      ))}
      {marks.length > 0 && !solved && <Attention words={texts.noTiltFitsTheseMarks} />}
      {solved && (
        <>
          <Words testID="solved">
            {texts.thisFitsAHeightOf(
              metresWords(solved.aim.heightMetres),
              Math.round(solved.aim.tiltDegrees * 10) / 10,
              Math.round(solved.worst * 100),
            )}
          </Words>
          {solved.worst > goodWithin && <Attention words={texts.thisIsMoreThan5} />}
          <Row>
            <Button words={texts.useThis} onPress={() => take(solved.aim)} testID="take-solved" />
          </Row>
        </>
      )}
    </Card>
  );
}
