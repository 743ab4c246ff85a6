import { attributes, type Attribute, type MatchRules, type RuleWeight } from '@legame/core/match';
import type { MediaKind } from '@legame/core/model';
import { storage } from '../../api/storage.ts';
import { attributeWords } from '@legame/words/statuses';
import { SearchedFolders } from './SearchedFolders.tsx';

const weights: readonly (readonly [RuleWeight, string, string])[] = [
  ['must', 'must', 'A file that differs in it is refused'],
  ['counts', 'counts', 'A difference keeps a link from being certain'],
  ['ignored', 'ignored', 'It is shown, and does nothing'],
];
const kinds: readonly MediaKind[] = ['picture', 'sound', 'still', 'sequence'];

type Props = { readonly rules: MatchRules; readonly onChange: (part: Partial<MatchRules>) => void };

/** What matching goes by, attribute by attribute, with its tolerances, kinds and folders. */
export function RulesForm({ rules, onChange, children }: Props & { children: React.ReactNode }) {
  const places = storage.usePlacesQuery();
  const weigh = (attribute: Attribute, weight: RuleWeight) =>
    onChange({ weights: { ...rules.weights, [attribute]: weight } });
  const tick = (label: string, title: string, isOn: boolean, set: (isOn: boolean) => void) => (
    <label className="flex items-center gap-1.5" title={title}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={isOn}
        onChange={(event) => set(event.target.checked)}
      />
      {label}
    </label>
  );
  return (
    <>
      <table className="mt-2 w-full">
        <tbody>
          {attributes.map((attribute) => (
            <tr key={attribute} className="line-b">
              <th scope="row" className="py-[3px] text-left font-normal">
                {attributeWords[attribute]}
              </th>
              <td className="py-[3px] text-right">
                <Weights
                  attribute={attribute}
                  now={rules.weights[attribute]}
                  onWeigh={(weight) => weigh(attribute, weight)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 grid grid-cols-2 gap-1">
        {tick('ignore case', 'BOWL.MOV is bowl.mov', rules.ignoreCase, (ignoreCase) => onChange({ ignoreCase }))}
        {tick('ignore the ending', 'bowl.mxf is bowl.mov', rules.ignoreExtension, (ignoreExtension) =>
          onChange({ ignoreExtension }),
        )}
        {tick('across rates', '24 is 23.976: the same count at another speed', rules.acrossRates, (acrossRates) =>
          onChange({ acrossRates }),
        )}
        {tick('any codec', 'The codec is not looked at', rules.weights.codec === 'ignored', (isOn) =>
          weigh('codec', isOn ? 'ignored' : 'counts'),
        )}
        {children}
      </div>
      <Kinds rules={rules} onChange={onChange} />
      <SearchedFolders places={places.data ?? []} within={rules.within} onChange={(within) => onChange({ within })} />
    </>
  );
}

function Weights({
  attribute,
  now,
  onWeigh,
}: {
  attribute: Attribute;
  now: RuleWeight;
  onWeigh: (weight: RuleWeight) => void;
}) {
  return (
    <span className="inline-flex" role="radiogroup" aria-label={attributeWords[attribute]}>
      {weights.map(([weight, word, title]) => (
        <button
          key={weight}
          type="button"
          role="radio"
          aria-checked={now === weight}
          title={title}
          className={`border border-l-0 px-2 text-[12px] first:rounded-l first:border-l last:rounded-r ${now === weight ? 'border-base-300 bg-base-content text-base-100' : 'border-base-300 text-quiet hover:bg-base-200'}`}
          onClick={() => onWeigh(weight)}
        >
          {word}
        </button>
      ))}
    </span>
  );
}

function Kinds({ rules, onChange }: Props) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
      <span className="text-quiet">Kinds:</span>
      {kinds.map((kind) => {
        const isOn = rules.kinds === null || rules.kinds.includes(kind);
        const others = (rules.kinds ?? kinds).filter((k) => k !== kind);
        const all = [...others, kind];
        return (
          <label key={kind} className="flex items-center gap-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={isOn}
              onChange={() => onChange({ kinds: isOn ? others : all.length === kinds.length ? null : all })}
            />
            {kind}
          </label>
        );
      })}
    </div>
  );
}
