import type { Language } from "./language";

export const pt: Language = {
  code: "pt",
  twoSurnames: true,
  concepts: {
    student: `aluno aluna alunos alunas estudante estudantes criança crianças filho filha educando educanda atleta atletas sócio sócia jogador jogadora participante membro discente menor
      inscrito cantor nadador formando dançarino dançarina`,
    guardian: `encarregado encarregada encarregado_de_educação encarregados_de_educação enc_educação ee responsável responsáveis pais contato contacto contactos tutor tutora adulto
      responsável_legal representante familiar`,
    mother: `mãe mães mamã`,
    father: `pai papá`,
    household: `família agregado agregado_familiar`,
    staff: `professor professora professores docente treinador treinadora diretor_de_turma diretora_de_turma dt prof instrutor instrutora monitor orientador técnico mestre
      educador educadora formador titular`,
    emergency: `emergência`,
    doctor: `médico pediatra`,
    self: `seu sua seus suas teu meu minha`,
    sibling: `irmão irmã irmãos`,
    name: `nome nomes nome_completo`,
    surname: `apelido apelidos sobrenome sobrenomes último_nome nome_de_família`,
    given: `primeiro_nome nome_próprio prenome nome`,
    nickname: `alcunha`,
    number: `número nº num matrícula processo id código identificação n_processo ra`,
    class: `turma turmas classe grupo grupos sala oficina curso cursos aula`,
    team: `equipa equipas equipe time escalão categoria elenco`,
    level: `ano anos série nível escolaridade ano_de_escolaridade grau etapa`,
    site: `escola polo pólo sede unidade estabelecimento campus edifício local núcleo`,
    email: `email correio correio_eletrónico correio_eletrônico e_mail mail endereço_de_email endereço_eletrónico emails correio_electrónico endereço_de_e_mail`,
    address: `endereço endereços`,
    phone: `telefone telemóvel celular tel contacto_telefónico telef tlm número_de_telefone fixo`,
    relation: `parentesco grau_de_parentesco relação vínculo`,
    birth: `nascimento data_de_nascimento idade aniversário data_nasc naturalidade`,
    submitted: `carimbo carimbo_de_data submetido enviado data_de_envio respondido recebido hora_de_início`,
    season: `época ano_letivo temporada ano_lectivo período`,
    street: `morada rua residência endereço_residencial logradouro`,
    town: `cidade localidade concelho freguesia bairro país estado município nacionalidade`,
    postcode: `código_postal cep`,
    health: `alergia alergias saúde doença doenças medicação restrições dieta deficiência necessidades intolerância vacinas utente`,
    gender: `sexo género gênero`,
    consent: `autorização autoriza autorizo consentimento imagem fotografia fotografias permissão aceita assinatura pode`,
    notes: `observações observação notas nota comentários obs comentário`,
    job: `categoria_profissional funcionário funcionária ?cargo ?função`,
    counter: `ordem linha`,
    money: `mensalidade pagamento pago valor quota propina`,
    private: `religião nif cpf iban senha cartão_de_cidadão rg`,
    first: `primeiro primeira principal 1º`,
    second: `segundo segunda outro outra 2º`,
    third: `terceiro terceira 3º`,
    fourth: `quarto quarta`,
    fifth: `quinto quinta`,
  },
  small: `o a os as de do da dos das e ou em no na para por qual que é um uma com ao se seu`,
  totals: `total totais soma`,
  given: `joão francisco afonso duarte tomás martim rodrigo santiago lourenço miguel gonçalo tiago pedro diogo guilherme gabriel rafael dinis salvador vicente manuel josé antónio luís
    carlos paulo rui jorge fernando nuno ricardo bruno hugo sérgio marco andré filipe daniel david simão maria leonor matilde carolina beatriz mariana ana inês sofia francisca
    margarida lara alice clara benedita laura joana madalena catarina rita teresa helena isabel paula cristina sandra carla susana patrícia sónia marta filipa cláudia raquel
    vera diana mónica luísa constança eva júlia letícia larissa camila isabela heloísa valentina davi enzo arthur bernardo heitor theo caio thiago`,
};
