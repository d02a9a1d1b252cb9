import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** What is practised, groups of students with their exercises and marks, and the roles of the school. */
export const theSchool: SchemaStep = {
  name: '017-the-school',
  statements: [
    "ALTER TABLE people MODIFY role ENUM('cook', 'lead', 'manager', 'student', 'instructor') NOT NULL",
    `CREATE TABLE IF NOT EXISTS practice_answers (
      sequence BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      card VARCHAR(120) NOT NULL,
      is_right TINYINT(1) NOT NULL,
      at DATETIME(3) NOT NULL,
      UNIQUE KEY practice_answers_id (id),
      KEY practice_answers_of_person (person_id, sequence),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (person_id) REFERENCES people (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS student_groups (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(60) NOT NULL,
      instructor_id ${id} NOT NULL,
      version INT NOT NULL DEFAULT 1,
      UNIQUE KEY student_groups_name (kitchen_id, name),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (instructor_id) REFERENCES people (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS group_members (
      group_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      PRIMARY KEY (group_id, person_id),
      KEY group_members_of_person (person_id),
      FOREIGN KEY (group_id) REFERENCES student_groups (id),
      FOREIGN KEY (person_id) REFERENCES people (id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS exercises (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      group_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      day DATE NOT NULL,
      body JSON NOT NULL,
      handed_back_at DATETIME(3) NULL,
      version INT NOT NULL DEFAULT 1,
      KEY exercises_of_kitchen (kitchen_id, day),
      KEY exercises_of_group (group_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (group_id) REFERENCES student_groups (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS exercise_runs (
      exercise_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      run_id ${id} NOT NULL,
      PRIMARY KEY (exercise_id, person_id),
      UNIQUE KEY exercise_runs_run (run_id),
      FOREIGN KEY (exercise_id) REFERENCES exercises (id),
      FOREIGN KEY (person_id) REFERENCES people (id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (run_id) REFERENCES runs (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS marks (
      sequence BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      exercise_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      criterion VARCHAR(40) NOT NULL,
      mark TINYINT NULL,
      word VARCHAR(400) NOT NULL,
      given_by_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      UNIQUE KEY marks_id (id),
      KEY marks_of_exercise (exercise_id, sequence),
      FOREIGN KEY (exercise_id) REFERENCES exercises (id),
      FOREIGN KEY (person_id) REFERENCES people (id),
      FOREIGN KEY (given_by_id) REFERENCES people (id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS cutting_attempts (
      sequence BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      exercise_id ${id} NULL,
      rung VARCHAR(40) NOT NULL,
      seed INT UNSIGNED NOT NULL,
      shape JSON NULL,
      cuts_cm JSON NOT NULL,
      score DOUBLE NOT NULL,
      at DATETIME(3) NOT NULL,
      UNIQUE KEY cutting_attempts_id (id),
      KEY cutting_attempts_of_person (person_id, sequence),
      KEY cutting_attempts_of_exercise (exercise_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (person_id) REFERENCES people (id)
    ) ${table}`,
  ],
}
