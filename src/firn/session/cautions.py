"""What to take care of, short and usual, in the languages in which packs are made."""

CAUTIONS = (
    "Warm up first, and build ankle and shin work up over weeks.",
    "Stop at pain; see a doctor or physiotherapist for pain that stays.",
    "Hold a rail or chair for slow drills that leave the floor.",
    "A sprung floor, not tile or concrete. Taps slip: check screws and floor, and leave space to turn.",
    "Keep the level moderate and give ears and legs their breaks.",
    "A venue's own rules, floor and fire codes, and a licensed professional's advice come first.",
)

IN_SPANISH = (
    "Calienta primero, y aumenta el trabajo de tobillo y espinilla poco a poco, por semanas.",
    "Para si duele; consulta a un médico o fisioterapeuta si el dolor no se va.",
    "Sujétate de una barra o silla en los ejercicios lentos que dejan el suelo.",
    "Un suelo con cámara, no baldosa ni cemento. Las chapas resbalan: revisa tornillos y suelo y deja sitio.",
    "Mantén el volumen moderado y descansa los oídos y las piernas.",
    "Las normas del local y el consejo de un profesional titulado van primero.",
)
