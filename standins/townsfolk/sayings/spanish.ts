import type { Sayings } from "./sayings";

/** What people in Merrow Bay name in Spanish. */
export const SPANISH: Sayings = {
  waiting: {
    happy: [
      "nos atendieron a la hora",
      "apenas esperé",
      "llegaron puntuales",
      "no hubo que hacer cola",
      "pasamos enseguida",
    ],
    unhappy: [
      "esperamos casi una hora",
      "llegó con retraso",
      "la espera fue demasiado larga",
      "nadie nos dijo por qué tardaban",
      "perdí toda la mañana esperando",
    ],
  },
  price: {
    happy: [
      "el precio es justo",
      "pagué lo que me dijeron",
      "nada caro",
      "buena relación calidad precio",
      "no me cobraron la segunda visita",
    ],
    unhappy: [
      "muy caro para lo que hicieron",
      "la factura fue el doble del presupuesto",
      "me cobraron de más",
      "nadie me avisó del precio",
      "los precios han subido mucho",
    ],
  },
  explanation: {
    happy: [
      "me lo explicaron todo muy bien",
      "respondieron a todas mis preguntas",
      "lo explicaron con palabras sencillas",
      "me dijeron qué iban a hacer y por qué",
      "entendí cada paso",
    ],
    unhappy: [
      "no me explicaron nada",
      "no entendí qué habían hecho",
      "nadie respondió a mis preguntas",
      "me dejaron sin explicación",
      "explicaron muy mal el tratamiento",
    ],
  },
  kindness: {
    happy: [
      "todos fueron muy amables",
      "un trato muy cariñoso",
      "el personal es encantador",
      "tuvieron mucha paciencia con nosotros",
      "me sentí bien atendida",
    ],
    unhappy: [
      "fueron muy antipáticos",
      "me trataron mal",
      "la recepcionista fue maleducada",
      "ni siquiera saludaron",
      "me hablaron de mala manera",
    ],
  },
  result: {
    happy: [
      "ya funciona perfectamente",
      "quedó como nuevo",
      "mi perra está mucho mejor",
      "aprobé a la primera",
      "el resultado es excelente",
    ],
    unhappy: [
      "volvió a fallar a los dos días",
      "sigue sin funcionar",
      "quedó peor que antes",
      "el arreglo no duró nada",
      "un trabajo muy malo",
    ],
  },
  booking: {
    happy: [
      "fue fácil pedir cita",
      "me dieron hora para el mismo día",
      "cambiar la cita no fue problema",
      "contestaron al teléfono enseguida",
      "reservar es muy sencillo",
    ],
    unhappy: [
      "nadie contesta al teléfono",
      "me cancelaron la cita sin avisar",
      "no hay cita en semanas",
      "no tenían apuntada mi reserva",
      "es imposible pedir hora",
    ],
  },
  cleanliness: {
    happy: [
      "todo estaba muy limpio",
      "lo dejaron todo recogido",
      "las salas están impecables",
      "no dejaron ni una mota de polvo",
      "muy limpio y ordenado",
    ],
    unhappy: [
      "la sala estaba sucia",
      "lo dejaron todo lleno de polvo",
      "los baños daban asco",
      "olía fatal",
      "dejaron la casa hecha un desastre",
    ],
  },
  access: {
    happy: [
      "es fácil aparcar",
      "está muy bien situado",
      "hay sitio para aparcar en la puerta",
      "se llega bien en autobús",
      "hay rampa para el carrito",
    ],
    unhappy: [
      "no hay donde aparcar",
      "es difícil de encontrar",
      "las escaleras son un problema",
      "no hay rampa para sillas de ruedas",
      "el aparcamiento es muy caro",
    ],
  },
  "follow-up": {
    happy: [
      "me llamaron al día siguiente para ver cómo estaba",
      "nos mantuvieron informados",
      "enviaron el informe esa misma tarde",
      "siguieron pendientes de nosotros",
      "cumplieron y me devolvieron la llamada",
    ],
    unhappy: [
      "nunca me devolvieron la llamada",
      "no supimos nada más",
      "sigo esperando una respuesta",
      "tuve que llamar tres veces por los resultados",
      "nadie hizo seguimiento",
    ],
  },
  damage: {
    happy: [
      "no rompieron nada",
      "cuidaron mucho los muebles",
      "no dejaron ni un rasguño",
      "taparon los muebles antes de empezar",
      "todo volvió intacto",
    ],
    unhappy: [
      "me rompieron un jarrón",
      "rayaron la puerta",
      "dejaron una mancha en el sofá",
      "perdieron una pieza",
      "me devolvieron el coche con un golpe",
    ],
  },
  thoroughness: {
    happy: [
      "lo revisaron todo con detalle",
      "un trabajo muy cuidadoso",
      "se tomaron su tiempo",
      "hicieron más de lo que pedí",
      "muy minuciosos",
    ],
    unhappy: [
      "lo hicieron deprisa y corriendo",
      "apenas lo miraron",
      "se dejaron la mitad sin hacer",
      "un trabajo descuidado",
      "me sentí con prisas",
    ],
  },
  honesty: {
    happy: [
      "fueron muy honestos",
      "no intentaron venderme nada",
      "me dijeron la verdad",
      "se puede confiar en ellos",
      "reconocieron su error",
    ],
    unhappy: [
      "me mintieron",
      "querían venderme algo que no necesito",
      "no me fío de ellos",
      "solo les importa el dinero",
      "me engañaron",
    ],
  },
};

export const SPANISH_ASIDES: readonly string[] = [
  "fue nuestra primera visita",
  "venimos desde hace años",
  "nos lo recomendó una vecina",
  "no suelo escribir reseñas",
];
