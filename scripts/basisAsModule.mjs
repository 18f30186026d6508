// The transcoder of Basis Universal comes as a script for `require` in a package of modules, and makes functions out of
// text, which the app's content policy forbids. This loader of the build gives it the export it lacks, and puts plain
// functions where it would evaluate text: they pass on the same arguments in the same order. Where a new version of the
// package says it otherwise, the build fails here and not on a player's screen.

/** A call of a function or method of the library, with what was made for its arguments freed afterwards. */
const INVOKER = `function (...given) {
  const freed = [];
  const made = [];
  const wired = (type, value) => {
    const one = type.toWireType(needsDestructorStack ? freed : null, value);
    made.push(one);
    return one;
  };
  const first = isClassMethodFunc ? 1 : 2;
  const values = isClassMethodFunc ? [wired(argTypes[1], this)] : [];
  for (let i = 2; i < argTypes.length; i++) values.push(wired(argTypes[i], given[i - 2]));
  const answer = cppInvokerFunc(cppTargetFunc, ...values);
  if (needsDestructorStack) runDestructors(freed);
  else made.forEach((one, i) => argTypes[first + i].destructorFunction?.(one));
  return returns ? argTypes[0].fromWireType(answer) : undefined;
}`;

/** A call from the library to a method of a JavaScript value. */
const CALLER = `function (obj, func, destructorsRef, from) {
  let at = from;
  const values = types.map((type) => {
    const value = type.readValueFromPointer(at);
    at += type.argPackAdvance;
    return value;
  });
  const answer = kind === 1 ? new func(...values) : func.apply(kind === 0 ? obj : values.shift(), values);
  return retType.isVoid ? undefined : emval_returnValue(retType, destructorsRef, answer);
}`;

const REPLACED = [
  ['newFunc(Function,args)(...closureArgs)', INVOKER],
  ['newFunc(Function,params)(...args)', CALLER],
];

export default function asModule(source) {
  let text = source;
  for (const [evaluated, plain] of REPLACED) {
    if (text.split(evaluated).length !== 2) throw new Error(`the transcoder of textures no longer says "${evaluated}"`);
    text = text.replace(evaluated, () => plain);
  }
  return `${text}\nexport default BASIS;\n`;
}
