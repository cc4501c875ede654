/**
 * What a column of a list can hold, with the words that stand over such columns in English, Spanish, French, German
 * and Portuguese.
 */

export const FIELDS = [
  "full name",
  "given name",
  "family name",
  "email",
  "phone",
  "customer number",
  "language",
  "birth date",
  "postal address",
  "guardian name",
  "guardian email",
  "guardian phone",
  "tags",
  "note",
  "consent",
  "visit number",
  "visit date",
  "visit time",
  "service",
  "branch",
  "team member",
  "about",
  "outcome",
] as const;
export type Field = (typeof FIELDS)[number];

/** Fields that say something of a visit; a list without any of them holds people only. */
export const VISIT_FIELDS: readonly Field[] = [
  "visit number",
  "visit date",
  "visit time",
  "service",
  "branch",
  "team member",
  "about",
  "outcome",
];

/** What a field is, for the person who matches columns. */
export const FIELD_HINTS: Record<Field, string> = {
  "full name": "Odette Marsh, or Marsh, Odette",
  "given name": "Odette",
  "family name": "Marsh",
  email: "odette@post.example",
  phone: "mobile or landline",
  "customer number": "your own number for them",
  language: "the language they prefer",
  "birth date": "so we know who’s under age",
  "postal address": "street and town",
  "guardian name": "the adult we write to",
  "guardian email": "of that adult",
  "guardian phone": "of that adult",
  tags: "separated by commas",
  note: "for your team only",
  consent: "yes or no to messages",
  "visit number": "your own number for the visit",
  "visit date": "the date, with or without the time",
  "visit time": "when it ended",
  service: "what was done",
  branch: "where",
  "team member": "who did it",
  about: "who or what it was about: a pet, a piano",
  outcome: "finished, cancelled, no-show, booked",
};

const WORDS: Record<Field, string> = {
  "full name":
    "name, full name, fullname, customer, customer name, client, client name, contact, contact name, patient, patient name, owner, owner name, guest, person, nombre completo, nombre y apellidos, cliente, nombre del cliente, paciente, nom complet, nom et prenom, nom du client, vollstandiger name, kunde, kundenname, patient name, kontakt, nome completo, nome do cliente, nome e sobrenome, pupil, pupil name, student, learner",
  "given name":
    "first name, firstname, first, given name, given, forename, fname, preferred name, nombre, nombre de pila, nombres, primer nombre, prenom, vorname, rufname, nome, primeiro nome, nome proprio",
  "family name":
    "last name, lastname, last, family name, surname, lname, second name, apellido, apellidos, primer apellido, nom, nom de famille, nachname, familienname, zuname, sobrenome, apelido, ultimo nome",
  email:
    "email, e mail, email address, e mail address, mail, mail address, customer email, client email, contact email, owner email, correo, correo electronico, direccion de correo, adresse email, adresse e mail, courriel, adresse courriel, adresse mail, mel, e mail adresse, mailadresse, emailadresse, correio eletronico, correio, endereco de email",
  phone:
    "phone, mobile, phone number, mobile number, mobile phone, cell, cell phone, cellphone, telephone, tel, telephone number, tel no, phone no, mobile no, contact number, sms, text number, customer phone, client phone, owner phone, telefono, movil, celular, numero de telefono, telefono movil, telephone portable, portable, tel portable, numero de telephone, mobile portable, telefon, handy, handynummer, mobil, mobilnummer, mobiltelefon, telefonnummer, rufnummer, telefone, telemovel, telemovel celular, numero de telefone",
  "customer number":
    "customer number, customer id, customerid, customer no, client id, clientid, client number, client no, id, contact id, person id, external id, account, account number, account no, patient id, numero de cliente, id cliente, numero client, id client, kundennummer, kundennr, kunden nr, kunden id, numero do cliente, id do cliente, codigo do cliente",
  language:
    "language, lang, preferred language, locale, idioma, lengua, langue, langue preferee, sprache, korrespondenzsprache, lingua",
  "birth date":
    "birth date, birthdate, date of birth, dob, birthday, born, fecha de nacimiento, nacimiento, date de naissance, naissance, ne le, geburtsdatum, geburtstag, geboren am, data de nascimento, nascimento",
  "postal address":
    "address, postal address, street, street address, address line 1, address 1, home address, direccion, domicilio, calle, adresse, adresse postale, rue, anschrift, strasse, postanschrift, endereco, morada, rua",
  "guardian name":
    "guardian, guardian name, parent, parent name, parent guardian, responsible adult, payer, tutor, nombre del tutor, padre o madre, tuteur, nom du tuteur, parent responsable, erziehungsberechtigter, elternteil, vormund, responsavel, nome do responsavel, encarregado",
  "guardian email":
    "guardian email, parent email, email of guardian, parent e mail, correo del tutor, email du tuteur, e mail eltern, email do responsavel",
  "guardian phone":
    "guardian phone, parent phone, guardian mobile, parent mobile, telefono del tutor, telephone du tuteur, telefon eltern, telefone do responsavel",
  tags: "tags, tag, labels, label, groups, group, categories, segment, etiquetas, etiquettes, etikett, schlagworter, gruppe, gruppen, kategorien, marcadores, grupos",
  note: "note, notes, comment, comments, remark, remarks, memo, nota, notas, comentario, comentarios, observaciones, remarque, remarques, commentaire, notiz, notizen, bemerkung, bemerkungen, anmerkung, observacoes, observacao",
  consent:
    "consent, opt in, optin, opted in, marketing, marketing consent, may contact, permission, consentimiento, acepta, acepta mensajes, consentement, accepte, accord, einwilligung, zustimmung, werbeerlaubnis, consentimento, aceita, autorizacao",
  "visit number":
    "visit number, visit id, appointment id, appointment number, job id, job number, job no, booking id, booking number, booking reference, booking ref, reference, ref, invoice, invoice number, invoice no, order id, order number, order, numero de cita, numero de factura, factura, numero de facture, facture, numero de rendez vous, terminnummer, rechnungsnummer, rechnungsnr, rechnung, auftragsnummer, auftrag, numero da fatura, fatura, numero da consulta",
  "visit date":
    "date, visit date, visit, last visit, appointment, appointment date, appt date, appt, job date, service date, date of visit, date of service, completed, completed on, completed at, completed date, finished, finished at, end, ends, end date, end time date, checkout, check out, departure, invoice date, paid on, date paid, order date, start, start date, fecha, fecha de visita, fecha de la visita, fecha de la cita, cita, ultima visita, fecha de factura, date de visite, date du rendez vous, rendez vous, derniere visite, date de facture, datum, besuchsdatum, termin, termindatum, letzter besuch, rechnungsdatum, data, data da visita, data da consulta, consulta, ultima visita, data da fatura",
  "visit time":
    "time, end time, finish time, visit time, appointment time, appt time, finished time, start time, hour, hora, hora fin, hora de la cita, heure, heure de fin, heure du rendez vous, uhrzeit, zeit, endzeit, hora da consulta, horario",
  service:
    "service, service name, services, treatment, procedure, appointment type, appt type, type, job type, job, product, item, work, work done, reason, reason for visit, servicio, tratamiento, tipo de cita, motivo, prestation, soin, type de rendez vous, motif, intervention, leistung, dienstleistung, arbeit, trabajo, travail, trabalho, behandlung, terminart, art, besuchsgrund, servico, tratamento, tipo de consulta, procedimento, visit type",
  branch:
    "branch, location, site, store, shop, office, practice, clinic, premises, place, sucursal, sede, tienda, clinica, local, agence, succursale, magasin, cabinet, lieu, filiale, standort, niederlassung, praxis, geschaft, unidade, loja, filial, agencia",
  "team member":
    "team member, staff, staff member, employee, technician, tech, stylist, therapist, vet, doctor, dentist, practitioner, provider, instructor, assigned to, seen by, with, clinician, done by, served by, empleado, tecnico, doctor a, atendido por, profesional, employe, technicien, praticien, veterinaire, avec, mitarbeiter, techniker, arzt, tierarzt, behandler, therapeut, funcionario, medico, profissional, atendido por",
  about:
    "pet, pet name, animal, animal name, patient animal, vehicle, car, registration, reg, instrument, piano, subject, about, regarding, mascota, nombre de la mascota, vehiculo, animal de compagnie, nom de l animal, vehicule, tier, tiername, haustier, fahrzeug, kennzeichen, animal de estimacao, nome do animal, veiculo",
  outcome:
    "status, outcome, state, result, visit status, appointment status, appt status, job status, attended, attendance, estado, estado de la cita, resultado, asistencia, statut, etat, etat du rendez vous, presence, terminstatus, ergebnis, zustand, situacao, presenca, estado da consulta",
};

/** A header as words to look up: small, without accents and punctuation. */
export function headerKey(text: string): string {
  return text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/ß/g, "ss")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
}

const LOOKUP = new Map<string, Field>();
for (const field of FIELDS) {
  for (const words of WORDS[field].split(",")) {
    const key = headerKey(words);
    if (!LOOKUP.has(key)) LOOKUP.set(key, field);
  }
  LOOKUP.set(headerKey(field), field);
}

/**
 * The field that a header names, or null. A number behind it ("Phone 2") or a bracket ("Phone (mobile)") does not
 * matter.
 */
export function fieldOfHeader(header: string): Field | null {
  const plain = LOOKUP.get(headerKey(header));
  if (plain) return plain;
  return (
    LOOKUP.get(headerKey(header.replace(/[([].*$/, ""))) ?? LOOKUP.get(headerKey(header).replace(/\s*\d+$/, "")) ?? null
  );
}

const OUTCOME_WORDS = {
  finished:
    "finished, complete, completed, done, attended, arrived, seen, paid, closed, fulfilled, delivered, checked out, departed, yes, show, showed, shown, present, invoiced, finalizado, finalizada, completado, completada, realizada, realizado, atendido, atendida, pagado, pagada, si, asistio, termine, terminee, effectue, effectuee, honore, honoree, paye, payee, oui, present, presente, erledigt, abgeschlossen, fertig, beendet, erschienen, bezahlt, wahrgenommen, ja, concluido, concluida, finalizado, realizada, atendido, pago, paga, sim, compareceu",
  cancelled:
    "cancelled, canceled, cancel, cancelled by client, void, voided, refunded, declined, deleted, cancelada, cancelado, anulada, anulado, annule, annulee, abgesagt, storniert, abgebrochen, cancelada",
  "no-show":
    "no show, noshow, no showed, did not attend, dna, missed, absent, did not arrive, failed to attend, no, no asistio, no se presento, ausente, absent, absente, ne s est pas presente, non honore, nicht erschienen, versaumt, nein, faltou, nao compareceu, nao",
  booked:
    "booked, scheduled, confirmed, unconfirmed, pending, planned, open, upcoming, new, in progress, rescheduled, tentative, reservada, reservado, confirmada, confirmado, pendiente, programada, reserve, reservee, confirme, confirmee, en attente, prevu, prevue, gebucht, geplant, bestatigt, offen, agendado, agendada, marcada, marcado, pendente",
} as const;

const OUTCOME_LOOKUP = new Map<string, keyof typeof OUTCOME_WORDS>();
for (const [outcome, words] of Object.entries(OUTCOME_WORDS)) {
  for (const word of words.split(","))
    if (!OUTCOME_LOOKUP.has(headerKey(word)))
      OUTCOME_LOOKUP.set(headerKey(word), outcome as keyof typeof OUTCOME_WORDS);
}

/** What a cell says became of a visit, or null for words that say nothing known. */
export function readOutcome(text: string): "finished" | "cancelled" | "no-show" | "booked" | null {
  return OUTCOME_LOOKUP.get(headerKey(text)) ?? null;
}

const YES = new Set([
  "yes",
  "y",
  "true",
  "1",
  "x",
  "si",
  "s",
  "oui",
  "o",
  "ja",
  "j",
  "sim",
  "granted",
  "opted in",
  "subscribed",
  "ok",
]);
const NO = new Set(["no", "n", "false", "0", "non", "nein", "nao", "denied", "opted out", "unsubscribed", "none"]);

/** Yes, no, or null for anything else. */
export function readYesNo(text: string): boolean | null {
  const key = headerKey(text);
  return YES.has(key) ? true : NO.has(key) ? false : null;
}
