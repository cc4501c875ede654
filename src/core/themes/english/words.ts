/** Alternatives that several patterns share. */

export const NUMBER =
  "(?:\\d+|an?|one|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty|thirty|forty|fifty|sixty|ninety|half an|half|several|a few|few|couple of|many)";
export const TIME = "(?:minutes?|mins?|hours?|hrs?|quarter)";
export const US = "(?:me|us|him|her|them|my \\w+|our \\w+)";
export const PERSON =
  "(?:staff|team|people|crew|nurses?|vets?|doctors?|dentists?|receptionists?|reception|desk|front desk|instructors?|teachers?|technicians?|engineers?|plumbers?|mechanics?|tuners?|lady|ladies|girls?|man|men|woman|women|guys?|chap|lads?|person|folk|folks|bunch|everyone|everybody|owner|manager|assistant|groomer)";
export const PRAISE =
  "(?:good|great|lovely|nice|excellent|brilliant|perfect|fantastic|wonderful|superb|amazing|terrific|outstanding|fabulous|marvellous|awesome|best|beautiful|first[- ]class|top[- ]notch|faultless|flawless|impeccable|splendid)";
export const BLAME =
  "(?:bad|poor|terrible|awful|dreadful|horrible|appalling|shocking|worst|useless|rubbish|disappointing|atrocious|shoddy|abysmal|mediocre)";
