/** Extensions by URL. The first group is HL7's (FHIR R4 core and the SDC guide); the second is ours. */
export const url = {
  ordinalValue: "http://hl7.org/fhir/StructureDefinition/ordinalValue",
  optionExclusive: "http://hl7.org/fhir/StructureDefinition/questionnaire-optionExclusive",
  minValue: "http://hl7.org/fhir/StructureDefinition/minValue",
  maxValue: "http://hl7.org/fhir/StructureDefinition/maxValue",
  minLength: "http://hl7.org/fhir/StructureDefinition/minLength",
  maxDecimalPlaces: "http://hl7.org/fhir/StructureDefinition/maxDecimalPlaces",
  regex: "http://hl7.org/fhir/StructureDefinition/regex",
  entryFormat: "http://hl7.org/fhir/StructureDefinition/entryFormat",
  itemControl: "http://hl7.org/fhir/StructureDefinition/questionnaire-itemControl",
  unit: "http://hl7.org/fhir/StructureDefinition/questionnaire-unit",
  signatureRequired: "http://hl7.org/fhir/StructureDefinition/questionnaire-signatureRequired",
  responseSignature: "http://hl7.org/fhir/StructureDefinition/questionnaireresponse-signature",
  keyboard: "http://hl7.org/fhir/uv/sdc/StructureDefinition/sdc-questionnaire-keyboard",
  sliderStep: "http://hl7.org/fhir/StructureDefinition/questionnaire-sliderStepValue",
  optionsToggle: "http://hl7.org/fhir/uv/sdc/StructureDefinition/sdc-questionnaire-answerOptionsToggleExpression",
  translation: "http://hl7.org/fhir/StructureDefinition/translation",
  calculated: "http://hl7.org/fhir/uv/sdc/StructureDefinition/sdc-questionnaire-calculatedExpression",
  kind: "https://kindledger.example/fhir/StructureDefinition/questionnaire-kind",
  posting: "https://kindledger.example/fhir/StructureDefinition/posting-line",
  score: "https://kindledger.example/fhir/StructureDefinition/score",
  readAs: "https://kindledger.example/fhir/StructureDefinition/read-as",
  unitOption: "http://hl7.org/fhir/StructureDefinition/questionnaire-unitOption",
  signer: "https://kindledger.example/fhir/StructureDefinition/signer",
  signing: "https://kindledger.example/fhir/StructureDefinition/signature-place",
  signingTerms: "https://kindledger.example/fhir/StructureDefinition/signing-terms",
  scoreMissing: "https://kindledger.example/fhir/StructureDefinition/score-missing",
  alert: "https://kindledger.example/fhir/StructureDefinition/alert",
  scaleEnds: "https://kindledger.example/fhir/StructureDefinition/scale-ends",
  terms: "https://kindledger.example/fhir/StructureDefinition/terms",
  translatedFrom: "https://kindledger.example/fhir/StructureDefinition/translated-from",
  optionShownWhen: "https://kindledger.example/fhir/StructureDefinition/option-shown-when",
  sheet: "https://kindledger.example/fhir/StructureDefinition/worksheet-file",
  sheetField: "https://kindledger.example/fhir/StructureDefinition/worksheet-field",
  help: "https://kindledger.example/fhir/StructureDefinition/help-text",
} as const;

export const itemControlSystem = "http://hl7.org/fhir/questionnaire-item-control";
export const signatureTypeSystem = "urn:iso-astm:E1762-95:2013";
/** Consent signature, ASTM E1762. */
export const consentSignatureCode = "1.2.840.10065.1.12.1.7";
