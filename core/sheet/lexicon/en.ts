import type { Language } from "./language";

export const en: Language = {
  code: "en",
  concepts: {
    student: `student students child children childs pupil pupils kid kids player players athlete athletes singer singers
      chorister choristers dancer dancers swimmer swimmers gymnast gymnasts member members learner learners scholar scholars participant
      participants camper campers performer performers musician musicians cadet cadets scout scouts cub cubs brownie brownies
      beaver beavers rider riders rower rowers runner runners actor actors enrollee registrant son daughter ward youth
      junior juniors attendee attendees candidate candidates baby toddler young_person`,
    guardian: `parent parents guardian guardians carer carers caregiver caregivers caretaker adult adults contact contacts grown_up
      grownup grown_ups next_of_kin nok payer responsible_adult responsible_person legal_guardian family_contact home_contact par
      spouse partner foster_carer prnt grdn respondent`,
    mother: `mother mothers mum mums mom moms mama mummy mommy maternal mam`,
    father: `father fathers dad dads papa daddy paternal`,
    household: `household households family families home`,
    staff: `teacher teachers coach coaches trainer trainers instructor instructors tutor tutors leader leaders mentor mentors
      adviser advisor educator educators conductor director led_by taught_by key_worker keyworker key_person head_coach staff teaches
      homeroom_teacher class_teacher form_teacher form_tutor facilitator lecturer tchr manager organiser`,
    emergency: `emergency ice`,
    doctor: `doctor gp physician dentist doctors surgery`,
    self: `your you yours my`,
    sibling: `sibling siblings brother sister brothers sisters`,
    name: `name names fullname full_name nm`,
    surname: `surname surnames last_name lastname lname family_name familyname second_name sur_name last lst_nm`,
    given: `first_name firstname fname given_name givenname given forename forenames christian_name given_names first_names fore_name fst_nm`,
    prefix: `surname_prefix name_prefix infix`,
    nickname: `nickname known_as preferred_name preferred called goes_by likes_to_be_called chosen_name`,
    number: `number no nr num id code ref reference upn uln admission_number roll_number roll_no enrolment_number identifier admission
      registration_number reg_no membership_number pupil_id student_id sid adno`,
    class: `class classes section sections group groups homeroom home_room hr ?room ?rooms form_group ?form ?forms registration_group reg_group
      course courses ?period ?periods ?block ?blocks cohort cohorts ?stream ?streams ?set ?sets workshop workshops ?session ?sessions lesson lessons
      division divisions programme program classroom tutor_group tutorgroup advisory pod cls grp ensemble ensembles ability_group`,
    team: `team teams squad squads age_group agegroup crew crews troupe troupes ?side lineup line_up ?roster patrol patrols ?unit ?units ?lane ?league
      pack dens den ?band ?bands choir choirs`,
    level: `form level levels year years grade grades year_group yeargroup grade_level stage yr gr standard key_stage lvl belt`,
    site: `site sites campus campuses building buildings location locations branch branches venue venues centre center school_site ?place ?hall ?school
      ?pool ?studio`,
    email: `email emails mail mails e_mail e_mails emailaddress email_address e_mail_address mail_address eml address_email electronic_mail
      em_addr online_address`,
    address: `address addresses addr`,
    phone: `phone phones telephone tel mobile cell cellphone mob landline phone_number mobile_number contact_number contact_no cell_phone
      text_number fax telephone_number handphone tlf`,
    relation: `relationship relation relationships related relation_to relationship_to rel role_in_family`,
    birth: `birthday birthdate birth dob date_of_birth born birth_date d_o_b age ages bday`,
    submitted: `timestamp time_stamp submitted submitted_at submission completed completed_at responded response_date answered received
      created created_at date_submitted start_time completion_time entry_date recorded logged`,
    season: `season seasons school_year schoolyear academic_year term semester`,
    street: `street road home_address postal_address mailing_address street_address residential_address address_line house_number ?lives residence
      postal line_1 line_2 apartment`,
    town: `town city village county state country suburb region province nationality citizenship`,
    postcode: `postcode zip zip_code zipcode postal_code post_code`,
    health: `allergy allergies medical medication medications health condition conditions diet dietary disability disabilities asthma needs sen special_needs
      intolerance intolerances insurance vaccination medicine allergens illness epipen inhaler iep ehcp accommodations diagnosis`,
    gender: `gender sex pronouns`,
    consent: `consent permission permissions photo photos agree agreed agreement allow allowed may share newsletter opt_in gdpr privacy policy accept
      signed signature media_release waiver terms`,
    notes: `notes note comment comments remark remarks anything_else other_information additional_information further_information message memo observations`,
    job: `job jobs job_title jobtitle job_role employee employees employee_id employee_number staff_id staff_number staff_code extension ext line_manager ?position ?role ?post ?department`,
    counter: `row line position pos index seq serial sr sl`,
    money: `fee fees paid payment payments amount balance price cost invoice owed due subs subscription deposit receipt`,
    private: `password passport ssn social_security religion ethnicity bank iban account_number pupil_premium free_school_meals fsm nhs_number custody
      safeguarding income`,
    first: `first primary main one 1st`,
    second: `second secondary other two 2nd additional alternate alternative another`,
    third: `third three 3rd`,
    fourth: `fourth four 4th`,
    fifth: `fifth five 5th`,
  },
  small: `the of and or to for is in a an which what does do are at on with this that who whom whose please enter if any from be can we our how by`,
  totals: `total totals sum count subtotal grand_total number_of`,
  given: `james john robert michael william david thomas charles daniel matthew anthony mark paul steven andrew joshua kevin brian george edward
    jason ryan jacob nicholas eric jonathan stephen larry justin scott benjamin samuel jack henry oliver harry leo oscar archie theo freddie
    alfie noah liam mason ethan logan lucas jackson aiden owen luke dylan isaac caleb nathan max adam ben sam tom joe dan mary patricia jennifer linda
    elizabeth barbara susan jessica sarah karen lisa nancy betty sandra margaret ashley kimberly emily donna michelle carol amanda melissa
    deborah stephanie rebecca laura helen amy anna emma olivia sophia isabella ava mia charlotte amelia harper evelyn abigail ella grace chloe
    victoria lily hannah zoe lucy ruby evie poppy isla freya daisy alice rosie kate jane rachel claire holly megan naomi priya aisha fatima omar
    mohammed muhammad ali hassan ibrahim yusuf amir zara maya arjun rohan wei ming aaliyah imani kwame niamh aoife ciara sean patrick conor
    declan fiona rhys gareth dafydd angus hamish callum ewan niall halim ida bram una wren otto petra sunniva emre tariq rosa leif signe goran mina`,
};
