// What the place is called, its time zone, and where on earth it is: the sun hangs on that.

import { useState } from 'react';
import { View } from 'react-native';
import { List } from 'react-native-paper';
import { isZone } from '@nibber/core/time';
import { problemWords, useRevertMutation } from '../../state/api';
import { useSetSiteSettingsMutation } from '../../state/api/siteSettings';
import type { Site } from '../../state/api/types';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { unnamed } from './unnamed';
import { texts } from './words';

const maxZones = 5;

type Props = { site: Site; saved?: () => void; cancel?: (() => void) | undefined; words?: string };

export function SiteForm({ site, saved, cancel, words }: Props) {
  const { settings: place, version } = site;
  const isNew = place.name === unnamed;
  const say = useSay();
  const [save, state] = useSetSiteSettingsMutation();
  const [revertChange] = useRevertMutation();
  const [name, setName] = useState(isNew ? '' : place.name);
  const [zone, setZone] = useState(isNew ? browserZone() : place.timezone);
  const [latitude, setLatitude] = useState(degrees(place.latitude));
  const [longitude, setLongitude] = useState(degrees(place.longitude));
  const [noPosition, setNoPosition] = useState<string>();
  const [isTried, setTried] = useState(false);
  const [at, wrongAt] = positionOf(latitude, longitude);
  const wrongZone = isZone(zone) ? undefined : texts.chooseFromTheListSuch;
  const wrongName = isTried && name.trim() === '' ? texts.required : undefined;
  const done = async () => {
    setTried(true);
    if (name.trim() === '' || wrongZone || wrongAt) return;
    const answer = await save({ name: name.trim(), timezone: zone, ...at, version });
    if (answer.error) return;
    if (saved) saved();
    else say(texts.saved, { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const here = () => {
    setNoPosition(undefined);
    if (!globalThis.isSecureContext || !navigator.geolocation) return setNoPosition(texts.theBrowserSharesItsLocation);
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        setLatitude(coords.latitude.toFixed(3));
        setLongitude(coords.longitude.toFixed(3));
      },
      () => setNoPosition(texts.noLocationAvailableAllowIt),
      { timeout: 20_000 },
    );
  };
  return (
    <View style={{ gap: 12 }}>
      <Field
        label={texts.name}
        value={name}
        onChangeText={(t) => setName(t.slice(0, 80))}
        wrong={wrongName}
        onSubmitEditing={() => void done()}
        testID="place-name"
      />
      <ZoneField value={zone} put={setZone} wrong={wrongZone} />
      <Words bold>{texts.location}</Words>
      <Words size="small" tone="second">
        {texts.forSchedulesBasedOnSunrise}
      </Words>
      <Row style={{ alignItems: 'flex-start' }}>
        <View style={{ flex: 1, minWidth: 120 }}>
          <Field
            label={texts.latitude}
            value={latitude}
            onChangeText={setLatitude}
            inputMode="decimal"
            wrong={wrongAt}
            testID="place-latitude"
          />
        </View>
        <View style={{ flex: 1, minWidth: 120 }}>
          <Field label={texts.longitude} value={longitude} onChangeText={setLongitude} inputMode="decimal" testID="place-longitude" />
        </View>
      </Row>
      <Row>
        <Button glyph="site" words={texts.useThisDevicesLocation} onPress={here} testID="place-here" />
      </Row>
      {noPosition && <Attention words={noPosition} />}
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      <Footer {...(words ? { words } : {})} save={() => void done()} canSave={!state.isLoading} cancel={cancel} testID="save-place" />
    </View>
  );
}

const browserZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || 'Etc/UTC';
const degrees = (v: number | undefined) => (v === undefined ? '' : String(v));

type Position = { readonly latitude?: number; readonly longitude?: number };

export function positionOf(latitude: string, longitude: string): readonly [Position, string | undefined] {
  const [lat, long] = [latitude, longitude].map((t) => t.trim().replace(',', '.')) as [string, string];
  if (lat === '' && long === '') return [{}, undefined];
  const both = lat !== '' && long !== '' && Math.abs(Number(lat)) <= 90 && Math.abs(Number(long)) <= 180;
  return both ? [{ latitude: Number(lat), longitude: Number(long) }, undefined] : [{}, texts.enterBoth90To90];
}

/** Typed, with those that have it in their name. */
function ZoneField({ value, put, wrong }: { value: string; put: (zone: string) => void; wrong: string | undefined }) {
  const p = usePalette();
  const [isOpen, setOpen] = useState(false);
  const asked = value.trim().toLowerCase().replaceAll(' ', '_');
  const found = isOpen && asked.length > 1 ? zones().filter((z) => z.toLowerCase().includes(asked) && z !== value) : [];
  return (
    <View>
      <Field
        label={texts.timeZone}
        value={value}
        onChangeText={(t) => {
          setOpen(true);
          put(t);
        }}
        wrong={wrong}
        testID="place-zone"
      />
      {found.slice(0, maxZones).map((z) => (
        <List.Item
          key={z}
          title={z}
          onPress={() => {
            put(z);
            setOpen(false);
          }}
          style={{ minHeight: target, borderBottomWidth: 1, borderBottomColor: p.rule }}
          testID={`zone-${z}`}
        />
      ))}
    </View>
  );
}

let known: readonly string[] | undefined;
/** The IANA time zones that this browser knows. */
const zones = () => (known ??= Intl.supportedValuesOf('timeZone'));
