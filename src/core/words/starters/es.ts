import type { StarterWords } from "../pieces";

const STOP = "Para darse de baja, responda STOP.";

export const ES: StarterWords = {
  messages: {
    "first.appointment": {
      text: `Hola, {first name|}. ¿Qué tal la visita {about|} a {business}? Opine en un clic: {link} ${STOP}`,
      subject: "¿Qué tal su visita a {business}?",
      email:
        "Hola, {first name|}:\n\nGracias por venir a {business}, {branch|}. ¿Qué tal la visita {about|}?\n\n{link}\n\nBasta con un clic, y leemos todas las respuestas.\n\n{team member|El equipo}, {business}",
    },
    "first.job": {
      text: `Hola, {first name|}. {business} estuvo con usted ayer. ¿Ha quedado todo a su gusto? {link} ${STOP}`,
      subject: "¿Ha quedado todo a su gusto?",
      email:
        "Hola, {first name|}:\n\nAyer {team member|nuestro equipo} estuvo con usted. ¿Ha quedado todo a su gusto?\n\n{link}\n\nBasta con un clic. Si algo no está bien, nos gustaría saberlo.\n\n{business}",
    },
    "first.order": {
      text: `Hola, {first name|}. ¿Ha llegado bien su pedido de {business}? ¿Es lo que esperaba? {link} ${STOP}`,
      subject: "¿Su pedido es lo que esperaba?",
      email:
        "Hola, {first name|}:\n\nSu pedido de {business} ya debería haber llegado. ¿Es lo que esperaba?\n\n{link}\n\nBasta con un clic. Si falta algo o ha llegado roto, díganoslo y lo arreglaremos.\n\n{business}",
    },
    "first.stay": {
      text: `Hola, {first name|}. Gracias por alojarse en {business}. ¿Qué tal la estancia? {link} ${STOP}`,
      subject: "¿Qué tal su estancia en {business}?",
      email:
        "Hola, {first name|}:\n\nGracias por alojarse con nosotros. ¿Qué tal la estancia, de principio a fin?\n\n{link}\n\nBasta con un clic, y leemos todas las respuestas.\n\n{business}",
    },
    "first.lessons": {
      text: `Hola, {first name|}. ¿Qué tal van las clases {about|} en {business}? Opine en un clic: {link} ${STOP}`,
      subject: "¿Qué tal van las clases {about|}?",
      email:
        "Hola, {first name|}:\n\n¿Qué tal van las clases {about|} con {team member|nosotros}?\n\n{link}\n\nBasta con un clic, y nos ayuda a enseñar mejor.\n\n{business}",
    },
    "first.invoice": {
      text: `Hola, {first name|}. Gracias de parte de {business}. ¿Qué tal la visita {about|}? {link} ${STOP}`,
      subject: "Gracias de parte de {business}",
      email:
        "Hola, {first name|}:\n\nGracias, hemos recibido su pago. ¿Qué tal la visita {about|}?\n\n{link}\n\n{team member|El equipo}, {business}",
    },
    second: {
      text: `Hola, {first name|}. ¿Nos cuenta qué tal fue su visita a {business}? {link} ${STOP}`,
      subject: "{first name|Hola}, ¿qué tal su visita?",
      email:
        "Hola, {first name|}:\n\nHace unos días nos visitó ({branch|}). Si tiene un momento, cuéntenos cómo fue, para bien o para mal:\n\n{link}\n\nNo volveremos a preguntarle por esta visita.\n\n{business}",
    },
    reawaken: {
      text: `Hola, {first name|}. ¿Se acuerda de {business}? Su comentario ayuda a otros a elegir: {link} ${STOP}`,
      subject: "¿Se acuerda de {business}?",
      email:
        "Hola, {first name|}:\n\nHa pasado un tiempo desde su visita a {business}. Unas palabras de quien nos conoce ayudan más que cualquier cosa que digamos nosotros:\n\n{link}\n\nSolo se lo pediremos una vez. Si nos necesita de nuevo, responda a este correo.\n\n{business}",
    },
    "put-right": {
      text: `Hola, {first name|}. Le escribe {business}. Esperamos haberlo arreglado. ¿Todo bien? {link} ${STOP}`,
      subject: "{first name|Hola}, ¿ha quedado arreglado?",
      email:
        "Hola, {first name|}:\n\nNos dijo que algo no fue bien y hemos intentado arreglarlo. ¿Lo hemos conseguido?\n\n{link}\n\nLeemos todas las respuestas, y no volveremos a preguntarle por esto.\n\n{business}",
    },
    feeling: {
      text: `Hola, {first name|}. ¿Fue bien la visita {about|} a {business}? Bien: {good link} No muy bien: {bad link} ${STOP}`,
      subject: "¿Fue todo bien en {business}?",
      email:
        "Hola, {first name|}:\n\n¿Fue bien la visita {about|}?\n\n{good link}\n\n{bad link}\n\nBasta con un clic.\n\n{team member|El equipo}, {business}",
    },
    review: {
      text: `Hola, {first name|}. Nos alegra que fuera bien. ¿Se anima a contarlo en dos frases? {link} ${STOP}`,
      subject: "¿Lo contaría en dos frases?",
      email:
        "Hola, {first name|}:\n\nGracias por decirnos que la visita {about|} fue bien. ¿Se anima a contarlo también a otras personas? Un par de frases ayudan a elegir:\n\n{link}\n\n{business}",
    },
    "review.second": {
      text: `Hola, {first name|}. ¿Se anima? Dos frases sobre {business} ayudan a otros a elegir: {link} ${STOP}`,
      subject: "¿Un par de frases sobre {business}?",
      email:
        "Hola, {first name|}:\n\nSi esta semana tiene un minuto, un par de frases sobre {business} ayudarían a otras personas a elegir:\n\n{link}\n\nNo volveremos a escribirle sobre esto.\n\n{business}",
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
    "two.order": "¿Llegó bien el pedido {about|}?",
    "two.stay": "¿Fue bien la estancia {about|}?",
    "two.lessons": "¿Fue bien la clase {about|}?",
    "two.member": "¿Fue bien con {team member|nosotros}?",
    below: "Basta con un clic, {first name|}. Después puede añadir un comentario.",
    happy: "Nos alegra saberlo.",
    "happy.invite": "Un par de frases ayudan a otras personas a elegir.",
    "happy.prompt": "¿Hay algo que prefiera decirnos en privado?",
    unhappy: "Sentimos que no fuera mejor.",
    "unhappy.prompt": "¿Qué podemos arreglar?",
    "thanks.happy": "Gracias por su comentario.",
    "thanks.unhappy": "Gracias por decírnoslo. Veremos qué ha pasado.",
    "thanks.site": "Gracias, nos ayuda mucho.",
    "thanks.later": "Gracias, nos alegra saberlo.",
    "thanks.would": "Gracias, sobre todo por recomendarnos.",
    "thanks.undecided": "Gracias. Pensaremos en qué podemos mejorar.",
    "thanks.wouldnot": "Gracias por su sinceridad. Nos lo tomamos en serio.",
    picture: "Gracias, {first name|}",
  },
};
