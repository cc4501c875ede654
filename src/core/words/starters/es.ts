import type { StarterWords } from "../pieces";

const STOP = "Responda STOP para no recibir más.";

export const ES: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Hola {first name|}, ¿qué tal la visita {about|} a {business}? Díganoslo con un toque: {link} ${STOP}`,
      subject: "¿Qué tal en {business}?",
      email:
        "Hola {first name|}:\n\ngracias por venir a {business}, {branch}. ¿Qué tal la visita {about|}?\n\n{link}\n\nBasta con un toque, y leemos todas las respuestas.\n\n{team member|El equipo}, {business}",
    },
    "first.job": {
      text: `Hola {first name|}, ayer estuvimos en su casa. ¿Está todo como quería? {business}: {link} ${STOP}`,
      subject: "¿Está todo como quería?",
      email:
        "Hola {first name|}:\n\nayer {team member|uno de nosotros} estuvo en su casa. ¿Está todo como quería?\n\n{link}\n\nBasta con un toque. Si algo no está bien, nos gustaría saberlo los primeros.\n\n{business}",
    },
    "first.order": {
      text: `Hola {first name|}, su pedido de {business} ya debería haber llegado. ¿Es como esperaba? {link} ${STOP}`,
      subject: "¿Su pedido es como esperaba?",
      email:
        "Hola {first name|}:\n\nsu pedido de {business} ya debería haber llegado. ¿Es como esperaba?\n\n{link}\n\nBasta con un toque. Si falta algo o algo está roto, díganoslo y lo arreglamos.\n\n{business}",
    },
    "first.stay": {
      text: `Hola {first name|}, gracias por alojarse en {business}. ¿Qué tal la estancia? {link} ${STOP}`,
      subject: "¿Qué tal su estancia en {business}?",
      email:
        "Hola {first name|}:\n\ngracias por alojarse con nosotros. ¿Qué tal la estancia, desde la llegada hasta la salida?\n\n{link}\n\nBasta con un toque, y leemos todas las respuestas.\n\n{business}",
    },
    "first.lessons": {
      text: `Hola {first name|}, ¿qué tal van las clases {about|} en {business}? Díganoslo con un toque: {link} ${STOP}`,
      subject: "¿Qué tal van las clases {about|}?",
      email:
        "Hola {first name|}:\n\n¿qué tal van las clases {about|} con {team member|nosotros}?\n\n{link}\n\nBasta con un toque, y nos ayuda a enseñar mejor.\n\n{business}",
    },
    "first.invoice": {
      text: `Hola {first name|}, gracias de parte de {business}. ¿Qué tal la visita {about|}? {link} ${STOP}`,
      subject: "Gracias de parte de {business}",
      email:
        "Hola {first name|}:\n\ngracias, hemos recibido su pago. ¿Podemos preguntarle qué tal la visita {about|}?\n\n{link}\n\n{team member|El equipo}, {business}",
    },
    second: {
      text: `Hola {first name|}, en {business} nos encantaría saber cómo fue: {link} ${STOP}`,
      subject: "{first name|Buenos días}, ¿unas palabras sobre su visita?",
      email:
        "Hola {first name|}:\n\nhace unos días estuvo con nosotros en {branch}. Si tiene un momento, cuéntenos cómo fue, bien o mal:\n\n{link}\n\nNo volveremos a escribirle sobre esta visita.\n\n{business}",
    },
    reawaken: {
      text: `Hola {first name|}, hace tiempo estuvo en {business}. ¿Contaría a otros cómo fue? {link} ${STOP}`,
      subject: "¿Se acuerda de {business}?",
      email:
        "Hola {first name|}:\n\nha pasado un tiempo desde su visita a {business}. Unas palabras de quien nos conoce ayudan más que cualquier cosa que digamos nosotros:\n\n{link}\n\nSolo lo preguntamos una vez. Si nos necesita de nuevo, responda a este correo.\n\n{business}",
    },
    "put-right": {
      text: `Hola {first name|}, le escribe {business}. Esperamos que ya esté arreglado. ¿Lo está? {link} ${STOP}`,
      subject: "¿Ya está arreglado?",
      email:
        "Hola {first name|}:\n\nnos dijo que algo no fue bien y hemos intentado arreglarlo. ¿Lo hemos conseguido?\n\n{link}\n\nDiga lo que diga, lo leemos, y no volveremos a preguntarle por esto.\n\n{business}",
    },
    feeling: {
      text: `Hola {first name|}, ¿fue bien la visita {about|} a {business}? Sí: {good link} No mucho: {bad link} ${STOP}`,
      subject: "¿Fue todo bien en {business}?",
      email:
        "Hola {first name|}:\n\n¿fue bien la visita {about|}?\n\n{good link}\n\n{bad link}\n\nBasta con un toque.\n\n{team member|El equipo}, {business}",
    },
    review: {
      text: `Hola {first name|}, nos alegra que fuera bien. ¿Se lo contaría a otros en dos frases? {link} ${STOP}`,
      subject: "¿Se lo contaría a otros?",
      email:
        "Hola {first name|}:\n\nnos dijo que la visita {about|} fue bien. Gracias. ¿Se lo contaría también a otros? Dos frases ayudan a elegir:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Hola {first name|}, si tiene un minuto: dos frases sobre {business} ayudarían a otros a elegir. {link} ${STOP}`,
      subject: "¿Dos frases sobre {business}?",
      email:
        "Hola {first name|}:\n\nsi esta semana tiene un minuto, dos frases sobre {business} ayudarían a otros a elegir:\n\n{link}\n\nNo volveremos a escribirle sobre esto.\n\n{business}",
    },
  },
  page: {
    "question.appointment": "¿Qué tal la visita {about|}?",
    "question.job": "¿Qué tal el trabajo {about|}?",
    "question.order": "¿Qué tal el pedido {about|}?",
    "question.stay": "¿Qué tal la estancia {about|}?",
    "question.lessons": "¿Qué tal la clase {about|}?",
    "question.member": "¿Qué tal con {team member|nosotros}?",
    "two.appointment": "¿Fue bien la visita {about|}?",
    "two.job": "¿Fue bien el trabajo {about|}?",
    "two.order": "¿Fue bien el pedido {about|}?",
    "two.stay": "¿Fue bien la estancia {about|}?",
    "two.lessons": "¿Fue bien la clase {about|}?",
    "two.member": "¿Fue bien con {team member|nosotros}?",
    below: "Basta con un toque, {first name|}. Después puede añadir unas palabras.",
    happy: "Nos alegra saberlo.",
    "happy.invite": "Dos frases ayudan a otros a elegir.",
    "happy.prompt": "¿Algo que prefiera decirnos en privado?",
    unhappy: "Sentimos que no fuera mejor.",
    "unhappy.prompt": "¿Qué deberíamos arreglar?",
    "thanks.happy": "Gracias por sus palabras.",
    "thanks.unhappy": "Gracias por decírnoslo. Lo vamos a mirar.",
    "thanks.site": "Gracias, nos ayuda mucho.",
    "thanks.later": "Gracias, nos alegra saberlo.",
    "thanks.would": "Gracias, sobre todo por recomendarnos.",
    "thanks.undecided": "Gracias. Pensaremos en lo que falta.",
    "thanks.wouldnot": "Gracias por decirlo con franqueza. Lo tomamos en serio.",
    picture: "¡Gracias, {first name|}!",
  },
};
