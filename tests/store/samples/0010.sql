BEGIN TRANSACTION;
CREATE TABLE abandonment (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	reason TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_abandonment PRIMARY KEY (id), 
	CONSTRAINT fk_abandonment_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_abandonment_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT uq_abandonment_run_id UNIQUE (run_id)
);
CREATE TABLE adjustment (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	begun BOOLEAN NOT NULL, 
	target DOUBLE NOT NULL, 
	direction VARCHAR(200) NOT NULL, 
	note TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_adjustment PRIMARY KEY (id), 
	CONSTRAINT fk_adjustment_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT fk_adjustment_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
INSERT INTO "adjustment" VALUES(2,'2026-03-03 09:24:00.000000',1,1,10.0,'cw','',1);
INSERT INTO "adjustment" VALUES(2,'2026-03-03 09:27:00.000000',1,0,10.0,'cw','locked',2);
CREATE TABLE alembic_version (
	version_num VARCHAR(32) NOT NULL, 
	CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num)
);
INSERT INTO "alembic_version" VALUES('0010');
CREATE TABLE attachment (
	of_kind VARCHAR(200) NOT NULL, 
	of_id INTEGER NOT NULL, 
	name VARCHAR(200) NOT NULL, 
	digest VARCHAR(200) NOT NULL, 
	size INTEGER NOT NULL, 
	added_on DATE NOT NULL, 
	version INTEGER NOT NULL, 
	removed BOOLEAN NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_attachment PRIMARY KEY (id)
);
CREATE TABLE audit (
	at DATETIME NOT NULL, 
	person_id INTEGER, 
	action VARCHAR(200) NOT NULL, 
	subject VARCHAR(200) NOT NULL, 
	detail TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_audit PRIMARY KEY (id), 
	CONSTRAINT fk_audit_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'put on the bench','W-1','{"run": 1, "kind": "characterise", "rule_set": "iso-6789-2017", "why": ""}',1);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'looked over','W-1','{"line": "Drive and ratchet", "fine": true, "note": ""}',2);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'looked over','W-1','{"line": "Scale and lock", "fine": true, "note": ""}',3);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'looked over','W-1','{"line": "Housing and handle", "fine": true, "note": ""}',4);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'looked over','W-1','{"line": "No sign of a fall", "fine": true, "note": ""}',5);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'chose the reference','W-1','{"reference": "M-1", "reason": "it is what there is"}',6);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'recorded the room','W-1','{"temperature": 21.0, "humidity": 0.5}',7);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'checked the zero before','W-1','{"torque": 0.0, "series": null}',8);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 1, "torque": 10.0, "source": "typed"}',9);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 2, "torque": 10.05, "source": "typed"}',10);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 3, "torque": 10.1, "source": "typed"}',11);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 4, "torque": 10.15, "source": "typed"}',12);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 5, "torque": 10.2, "source": "typed"}',13);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 6, "torque": 10.25, "source": "typed"}',14);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 7, "torque": 10.3, "source": "typed"}',15);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 8, "torque": 10.35, "source": "typed"}',16);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 9, "torque": 10.4, "source": "typed"}',17);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 10, "torque": 10.45, "source": "typed"}',18);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 11, "torque": 10.5, "source": "typed"}',19);
INSERT INTO "audit" VALUES('2026-03-02 09:00:00.000000',1,'took a reading','W-1','{"reading": 12, "torque": 10.55, "source": "typed"}',20);
INSERT INTO "audit" VALUES('2026-03-02 09:06:00.000000',1,'checked the zero after','W-1','{"torque": 0.0, "series": null}',21);
INSERT INTO "audit" VALUES('2026-03-02 09:12:00.000000',1,'signed the run','W-1','{"run": 1, "outcome": "characterised", "sentence": "Adapter positions 0.30 N·m, loading point 0.100 N·m at 10 N·m"}',22);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'put on the bench','W-1','{"run": 2, "kind": "full", "rule_set": "iso-6789-2017", "why": ""}',23);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'looked over','W-1','{"line": "Drive and ratchet", "fine": true, "note": ""}',24);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'looked over','W-1','{"line": "Scale and lock", "fine": true, "note": ""}',25);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'looked over','W-1','{"line": "Housing and handle", "fine": true, "note": ""}',26);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'looked over','W-1','{"line": "No sign of a fall", "fine": true, "note": ""}',27);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'chose the reference','W-1','{"reference": "M-1", "reason": "it is what there is"}',28);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'recorded the room','W-1','{"temperature": 21.0, "humidity": 0.5}',29);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'checked the zero before','W-1','{"torque": 0.0, "series": null}',30);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 13, "torque": 9.3, "source": "meter trace"}',31);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 14, "torque": 9.3093, "source": "typed"}',32);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 15, "torque": 9.3186, "source": "typed"}',33);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 16, "torque": 9.3, "source": "typed"}',34);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 17, "torque": 9.3093, "source": "typed"}',35);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 18, "torque": 27.955800000000004, "source": "typed"}',36);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 19, "torque": 27.900000000000002, "source": "typed"}',37);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 20, "torque": 27.927899999999998, "source": "typed"}',38);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 21, "torque": 27.955800000000004, "source": "typed"}',39);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 22, "torque": 27.900000000000002, "source": "typed"}',40);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 23, "torque": 46.546499999999995, "source": "typed"}',41);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 24, "torque": 46.593, "source": "typed"}',42);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 25, "torque": 46.5, "source": "typed"}',43);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 26, "torque": 46.546499999999995, "source": "typed"}',44);
INSERT INTO "audit" VALUES('2026-03-03 09:00:00.000000',1,'took a reading','W-1','{"reading": 27, "torque": 46.593, "source": "typed"}',45);
INSERT INTO "audit" VALUES('2026-03-03 09:05:00.000000',1,'checked the zero after','W-1','{"torque": 0.0, "series": null}',46);
INSERT INTO "audit" VALUES('2026-03-03 09:12:00.000000',1,'struck a reading','W-1','{"reading": 13, "reason": "pulled too fast"}',47);
INSERT INTO "audit" VALUES('2026-03-03 09:15:00.000000',1,'took a reading','W-1','{"reading": 28, "torque": 9.31, "source": "typed"}',48);
INSERT INTO "audit" VALUES('2026-03-03 09:18:00.000000',1,'checked the zero after','W-1','{"torque": 0.0, "series": null}',49);
INSERT INTO "audit" VALUES('2026-03-03 09:24:00.000000',1,'began to adjust','W-1','{"target": 10.0, "direction": "cw"}',50);
INSERT INTO "audit" VALUES('2026-03-03 09:24:00.000000',1,'turned the screw','W-1','{"turn": 0.25}',51);
INSERT INTO "audit" VALUES('2026-03-03 09:25:12.000000',1,'took a reading','W-1','{"reading": 29, "torque": 9.9, "source": "typed"}',52);
INSERT INTO "audit" VALUES('2026-03-03 09:27:00.000000',1,'ended the adjustment','W-1','{"turns": 0.25}',53);
INSERT INTO "audit" VALUES('2026-03-03 09:27:36.000000',1,'recorded the room','W-1','{"temperature": 21.4, "humidity": 0.5}',54);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 30, "torque": 9.9, "source": "meter trace"}',55);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 31, "torque": 9.909899999999999, "source": "typed"}',56);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 32, "torque": 9.9198, "source": "typed"}',57);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 33, "torque": 9.9, "source": "typed"}',58);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 34, "torque": 9.909899999999999, "source": "typed"}',59);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 35, "torque": 29.7594, "source": "typed"}',60);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 36, "torque": 29.7, "source": "typed"}',61);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 37, "torque": 29.729699999999998, "source": "typed"}',62);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 38, "torque": 29.7594, "source": "typed"}',63);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 39, "torque": 29.7, "source": "typed"}',64);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 40, "torque": 49.549499999999995, "source": "typed"}',65);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 41, "torque": 49.599, "source": "typed"}',66);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 42, "torque": 49.5, "source": "typed"}',67);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 43, "torque": 49.549499999999995, "source": "typed"}',68);
INSERT INTO "audit" VALUES('2026-03-03 09:30:00.000000',1,'took a reading','W-1','{"reading": 44, "torque": 49.599, "source": "typed"}',69);
INSERT INTO "audit" VALUES('2026-03-03 09:35:00.000000',1,'checked the zero after','W-1','{"torque": 0.0, "series": null}',70);
INSERT INTO "audit" VALUES('2026-03-03 09:42:00.000000',1,'signed the run','W-1','{"run": 2, "outcome": "released", "sentence": "Clicks 1.0 % below its setting at 10 N·m; inside, near the fence, 3.0 % to spare"}',71);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'put on the bench','W-2','{"run": 3, "kind": "full", "rule_set": "iso-6789-2017", "why": ""}',72);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'looked over','W-2','{"line": "Drive and ratchet", "fine": true, "note": ""}',73);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'looked over','W-2','{"line": "Scale and lock", "fine": true, "note": ""}',74);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'looked over','W-2','{"line": "Housing and handle", "fine": true, "note": ""}',75);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'looked over','W-2','{"line": "No sign of a fall", "fine": true, "note": ""}',76);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'chose the reference','W-2','{"reference": "M-1", "reason": "it is what there is"}',77);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'recorded the room','W-2','{"temperature": 21.0, "humidity": 0.5}',78);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'checked the zero before','W-2','{"torque": 0.0, "series": null}',79);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 45, "torque": 9.0, "source": "meter trace"}',80);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 46, "torque": 9.008999999999999, "source": "typed"}',81);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 47, "torque": 9.018, "source": "typed"}',82);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 48, "torque": 9.0, "source": "typed"}',83);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 49, "torque": 9.008999999999999, "source": "typed"}',84);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 50, "torque": 27.054, "source": "typed"}',85);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 51, "torque": 27.0, "source": "typed"}',86);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 52, "torque": 27.026999999999997, "source": "typed"}',87);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 53, "torque": 27.054, "source": "typed"}',88);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 54, "torque": 27.0, "source": "typed"}',89);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 55, "torque": 45.044999999999995, "source": "typed"}',90);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 56, "torque": 45.09, "source": "typed"}',91);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 57, "torque": 45.0, "source": "typed"}',92);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 58, "torque": 45.044999999999995, "source": "typed"}',93);
INSERT INTO "audit" VALUES('2026-03-04 09:00:00.000000',1,'took a reading','W-2','{"reading": 59, "torque": 45.09, "source": "typed"}',94);
INSERT INTO "audit" VALUES('2026-03-04 09:05:00.000000',1,'checked the zero after','W-2','{"torque": 0.0, "series": null}',95);
INSERT INTO "audit" VALUES('2026-03-04 10:00:00.000000',1,'signed the run','W-2','{"run": 3, "outcome": "held", "sentence": "Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much"}',96);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'put on the bench','B-1','{"run": 4, "kind": "full", "rule_set": "iso-6789-2017", "why": ""}',97);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'looked over','B-1','{"line": "Drive", "fine": true, "note": ""}',98);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'looked over','B-1','{"line": "Bar", "fine": true, "note": ""}',99);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'looked over','B-1','{"line": "Pointer and scale", "fine": true, "note": ""}',100);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'looked over','B-1','{"line": "No sign of a fall", "fine": true, "note": ""}',101);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'chose the reference','B-1','{"reference": "M-1", "reason": "it is what there is"}',102);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'recorded the room','B-1','{"temperature": 21.0, "humidity": 0.5}',103);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'checked the zero before','B-1','{"torque": 0.0, "series": null}',104);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'looked at the pointer before','B-1','{"torque": 0.0}',105);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 60, "torque": 4.04, "source": "meter trace"}',106);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 61, "torque": 4.04404, "source": "typed"}',107);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 62, "torque": 4.04808, "source": "typed"}',108);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 63, "torque": 4.04, "source": "typed"}',109);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 64, "torque": 4.04404, "source": "typed"}',110);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 65, "torque": 12.144240000000002, "source": "typed"}',111);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 66, "torque": 12.120000000000001, "source": "typed"}',112);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 67, "torque": 12.13212, "source": "typed"}',113);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 68, "torque": 12.144240000000002, "source": "typed"}',114);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 69, "torque": 12.120000000000001, "source": "typed"}',115);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 70, "torque": 20.2202, "source": "typed"}',116);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 71, "torque": 20.2404, "source": "typed"}',117);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 72, "torque": 20.2, "source": "typed"}',118);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 73, "torque": 20.2202, "source": "typed"}',119);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 74, "torque": 20.2404, "source": "typed"}',120);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 75, "torque": 4.04, "source": "typed"}',121);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 76, "torque": 4.04404, "source": "typed"}',122);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 77, "torque": 4.04808, "source": "typed"}',123);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 78, "torque": 4.04, "source": "typed"}',124);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 79, "torque": 4.04404, "source": "typed"}',125);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 80, "torque": 12.144240000000002, "source": "typed"}',126);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 81, "torque": 12.120000000000001, "source": "typed"}',127);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 82, "torque": 12.13212, "source": "typed"}',128);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 83, "torque": 12.144240000000002, "source": "typed"}',129);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 84, "torque": 12.120000000000001, "source": "typed"}',130);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 85, "torque": 20.2202, "source": "typed"}',131);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 86, "torque": 20.2404, "source": "typed"}',132);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 87, "torque": 20.2, "source": "typed"}',133);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 88, "torque": 20.2202, "source": "typed"}',134);
INSERT INTO "audit" VALUES('2026-03-05 09:00:00.000000',1,'took a reading','B-1','{"reading": 89, "torque": 20.2404, "source": "typed"}',135);
INSERT INTO "audit" VALUES('2026-03-05 09:05:00.000000',1,'checked the zero after','B-1','{"torque": 0.0, "series": null}',136);
INSERT INTO "audit" VALUES('2026-03-05 09:05:00.000000',1,'looked at the pointer after','B-1','{"torque": 0.0}',137);
INSERT INTO "audit" VALUES('2026-03-05 10:00:00.000000',1,'signed the run','B-1','{"run": 4, "outcome": "released", "sentence": "Delivers 1.2 % more than it shows at 12 N·m; inside, 4.8 % to spare"}',138);
INSERT INTO "audit" VALUES('2026-03-06 09:00:00.000000',1,'amended a signed run','B-1','{"run": 4, "copy": 5, "reason": "one value was misread"}',139);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'put on the bench','W-2','{"run": 6, "kind": "check", "rule_set": "quick-check", "why": ""}',140);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'looked over','W-2','{"line": "Drive and ratchet", "fine": true, "note": ""}',141);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'looked over','W-2','{"line": "Scale and lock", "fine": true, "note": ""}',142);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'looked over','W-2','{"line": "Housing and handle", "fine": true, "note": ""}',143);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'looked over','W-2','{"line": "No sign of a fall", "fine": true, "note": ""}',144);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'chose the reference','W-2','{"reference": "M-1", "reason": ""}',145);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'recorded the room','W-2','{"temperature": 21.0, "humidity": 0.5}',146);
INSERT INTO "audit" VALUES('2026-03-14 09:00:00.000000',1,'checked the zero before','W-2','{"torque": 0.0, "series": null}',147);
INSERT INTO "audit" VALUES('2026-11-24 18:30:00.000000',1,'edited the tool','W-1','{"version": 2, "place": "Bay 4"}',148);
CREATE TABLE beam_repeat (
	beam_scale_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	mark DOUBLE NOT NULL, 
	read DOUBLE NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_beam_repeat PRIMARY KEY (id), 
	CONSTRAINT fk_beam_repeat_beam_scale_id_beam_scale FOREIGN KEY(beam_scale_id) REFERENCES beam_scale (id), 
	CONSTRAINT fk_beam_repeat_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
CREATE TABLE beam_scale (
	tool_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	document TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_beam_scale PRIMARY KEY (id), 
	CONSTRAINT fk_beam_scale_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_beam_scale_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id)
);
CREATE TABLE certificate (
	reference_id INTEGER NOT NULL, 
	number VARCHAR(200) NOT NULL, 
	laboratory VARCHAR(200) NOT NULL, 
	issued DATE NOT NULL, 
	due DATE NOT NULL, 
	coverage_factor DOUBLE NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_certificate PRIMARY KEY (id), 
	CONSTRAINT fk_certificate_reference_id_reference FOREIGN KEY(reference_id) REFERENCES reference (id)
);
INSERT INTO "certificate" VALUES(1,'C-1','Fell Laboratory','2025-01-10','2026-12-31',2.0,1);
CREATE TABLE certificate_point (
	certificate_id INTEGER NOT NULL, 
	torque DOUBLE NOT NULL, 
	error DOUBLE NOT NULL, 
	expanded_uncertainty DOUBLE NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_certificate_point PRIMARY KEY (id), 
	CONSTRAINT fk_certificate_point_certificate_id_certificate FOREIGN KEY(certificate_id) REFERENCES certificate (id)
);
INSERT INTO "certificate_point" VALUES(1,1.0,0.001,0.004,1);
INSERT INTO "certificate_point" VALUES(1,60.0,0.0,0.003,2);
CREATE TABLE chain_link (
	place INTEGER NOT NULL, 
	kind VARCHAR(200) NOT NULL, 
	row_id INTEGER NOT NULL, 
	form INTEGER NOT NULL, 
	content VARCHAR(200) NOT NULL, 
	digest VARCHAR(200) NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_chain_link PRIMARY KEY (id), 
	CONSTRAINT uq_chain_link_kind UNIQUE (kind, row_id), 
	CONSTRAINT uq_chain_link_place UNIQUE (place)
);
INSERT INTO "chain_link" VALUES(1,'certificate',1,1,'b7a65f37261cbf6e88249b9f7048c62f7c3e278ee7b2e855c2046998faef4ee8','3cea1d40e85b735671614208701e814459eb799b5e693ab1d19319be0850af20',1);
INSERT INTO "chain_link" VALUES(2,'version',1,1,'61ddb61b125bbfdd64deb80a967f4484c217f4b3ffc50fe9096d49ab22b706ca','8e9be6d567485fb52f74ac78cf87d6c3b9da2c4a9f67b2e3f7ad8540199bc7da',2);
INSERT INTO "chain_link" VALUES(3,'event',1,1,'4d0d00d585b615c19982b986b44012f62e84a858426b4abd895634b071acf9c6','0d3c87d2d57c7a01c8f01d3852c3dff91761c9011f91421d2e6c6d7e750eb954',3);
INSERT INTO "chain_link" VALUES(4,'event',2,1,'b6539b88230285da4daf74ecd78ded4613c037f19a188ed9f451b559320f0ec9','6e6d4c6a0fb3014986893c8ba71e6762c5797b08e0185d6bfa900a0f696f2132',4);
INSERT INTO "chain_link" VALUES(5,'event',3,1,'e28968d1a7a39b0325e0e2c2f7ca32d2b9feaa6b70f0811f540629aca764e906','acdb45d6c278da6d9ad4987427f969f0cd228a4ad3205b39198b2b4e40fb57f4',5);
INSERT INTO "chain_link" VALUES(6,'event',4,1,'40f6419876cfc4e5acb232dabb2e7609c140c867145419bda91eafb05270c868','88694620c8ffc2327f2c2385b51286d8bcfbc0ec407bbd75ff30e4fb1305517b',6);
INSERT INTO "chain_link" VALUES(7,'event',5,1,'ce1984ea2c14b3185abb5999b67aebe2a57e6e1a2ae1fc37b21655ed7a2f5225','192a460d415c1a80ff5ae97c63bfe091fa041f02a9bc806fbe23cdfa499071b1',7);
INSERT INTO "chain_link" VALUES(8,'run',1,1,'d44cfa84d62540360ab98c366bfca4cd1b619ffa167fc789e5abe27b74d31566','cc7154e60c4502e775739221486252015c864077f18b49fa753809ce3234dff8',8);
INSERT INTO "chain_link" VALUES(9,'run',2,1,'bc5274ca2b8914bda297166604d3d073a7e8a47e34880e82428a552b39ae895a','5d0d302432b8caa57361ec96fe2582e58902b6e610bbf6485f4a4a4e9e2480f9',9);
INSERT INTO "chain_link" VALUES(10,'run',3,1,'8b697e0f13e63f6843cd3fc83618bc3bc7ce3257bc30b738db46750de9363bd9','33fb4408fe78b106cad99681601ab75bc0c8bf534a80a54f802cc14371b0d08c',10);
INSERT INTO "chain_link" VALUES(11,'run',4,1,'8c825686150577ba315d477873ae0cb921db4134958a871cdf6b1f927d83088a','e752a8d84139188b8bdce3687b22ef8dd639d1129890464af565f8502bf472c5',11);
INSERT INTO "chain_link" VALUES(12,'audit',1,1,'5824e5e3fa49a972dad80b3cfee01437e33026775fa38c637ef4a3ca08d76881','8532942a82854cfeccb053bbe0ccbdfefa35c981da4d7223b204190c8b1bd7dd',12);
INSERT INTO "chain_link" VALUES(13,'audit',2,1,'7d0e141ae621f5b2b51ba2a82d14e08b04651f472ac03d1db12d328bb9869a18','827afa85113c66e3697dbf5ad909ba576a4e0220e9297ffe9a8560ab137ed8af',13);
INSERT INTO "chain_link" VALUES(14,'audit',3,1,'131f244dedfcbfa7c9e259720766f745c8be0652309500be6ba694e268093ccc','25c03c77a297b891723bf36ab02cbcdc04e6492f2684b81aaa80f14cc025306b',14);
INSERT INTO "chain_link" VALUES(15,'audit',4,1,'0d1c60da4b2a17ee34a024aaa2cc9b2f5f5c62bb8c385a88d1f4d46d9cc79b79','01be078032345aa3b8d98a1a46e7f7f6f45dd16b17b161f06172982deedeec8f',15);
INSERT INTO "chain_link" VALUES(16,'audit',5,1,'8d590dafc9842153a57b1ca2734ecd4ca25209668496cfcc0858e83da9052740','e7e9fd135dbe24c0df9196f7638d1739a8d03b852a6b7568e2ebaeb979b835b3',16);
INSERT INTO "chain_link" VALUES(17,'audit',6,1,'25a4b1c12cb67e8786f18130666523775c77106d7729d77da30aed62bbeaf889','16e894985200242a036a3031580af982d318c68d42d1938d832f3e32934d54fb',17);
INSERT INTO "chain_link" VALUES(18,'audit',7,1,'e30472825f0b2231de55e0038430cc6ced70ac1b3c3725a687235b13969620d9','3620f6c85013496ba5904de212ffbb62369fe77ce41e5cb37f3bb7adb1cc2b1e',18);
INSERT INTO "chain_link" VALUES(19,'audit',8,1,'d064f620722dc869d492bb871a1626d04e8a66bfb2be0853a3c0c207b2909339','6f30cdcb1c795bbc6ebaaa559a3f022e0ef5062c08786162b8a7cd888a0ce709',19);
INSERT INTO "chain_link" VALUES(20,'audit',9,1,'6dc6f780f2803105116aa18012434e0bb607b6106f7993198b1b17d7646306d7','b1adef1e2a87856ece0c8aa98435f296cceb794537d4158ee48425c56787dfa9',20);
INSERT INTO "chain_link" VALUES(21,'audit',10,1,'018c869e7f48c6e17ec59de286ee3ba8f5112544458f7b01bed768b15df061c6','d0539059b9d37284779796c9411ad9d996a4296fcd7438c081398536a5ce4ed8',21);
INSERT INTO "chain_link" VALUES(22,'audit',11,1,'9a3b233527b23c014d087330909e63f5fd87529ad0ec1ff9132660b9800f2110','49a6f6926d388a9650ae44bd8549e0b9bfaa395c7cc28caf995b94793a2a8c42',22);
INSERT INTO "chain_link" VALUES(23,'audit',12,1,'ab0e3c2d1cbb083745b0168276bf0fa3523d9eae8666d3f10816ec82230330b9','ad6291fe1459e213f983257dc9590f332b635654820ce56046276440a420e282',23);
INSERT INTO "chain_link" VALUES(24,'audit',13,1,'eec21893f6ea224e06ce1f98859735de811d749e6cdbdf5f70998766a05ccaa5','66601c9d4676940b8cfe91ceb6f312e439ffc81c35823667ebf8dadc7862ff19',24);
INSERT INTO "chain_link" VALUES(25,'audit',14,1,'e3354e989021ca16d55ff657e8d12d48160a73e2b99597ea6a36d00891276e4d','cb9f136ec2045985af2d192aa7fcc09d8e740aacfa26f29a396c94d3676ac30b',25);
INSERT INTO "chain_link" VALUES(26,'audit',15,1,'490d55952b1aeabb0bb45726342aa8d5af7f4fc3b356e9afe2a94c6126ac7b3a','a0a2e12c201e1e677d4ae2f238d58508a5fd1399119e945e4f5356b22e85e09d',26);
INSERT INTO "chain_link" VALUES(27,'audit',16,1,'a28b5f69cf4744109020f90b6610f8b22e373ca413d431fbdd2d89ea6756acfa','b2761d25c457d6afa168478e78bdcaae72678f8d1db2da009faddd9f556678e5',27);
INSERT INTO "chain_link" VALUES(28,'audit',17,1,'bcd5aeae1aef11ec32c6dfcb520e1f47fc721996bf3e4ce170bcca991e90bd48','9faaafb86881db6586afd4ad564edf669d5b23ea46150cf5ca94ab6de65748f5',28);
INSERT INTO "chain_link" VALUES(29,'audit',18,1,'e6a3c382887f593102a9d81037dcc78102f471a88e0aa438ffd6688eaad7ed3e','ed6e76175af08664f8bbfd1cbb3078edbc3139dbfee985721cffc204e2e7e7b5',29);
INSERT INTO "chain_link" VALUES(30,'audit',19,1,'a84f8f4e4fa74d511f7c0b4e2501319769a838389498a5e1e2856bfc63d98c2c','8e3f17a95f18e1836d123d0e89fee3501842749ed5c6b49d2443b4d6d17405c6',30);
INSERT INTO "chain_link" VALUES(31,'audit',20,1,'01c079e7294343a0ce668341dd687a135adef9bfe3e8958d7ce7fedbc48b8f51','3e451080d0602450c379082d0b16ee2562d3736af549aeebaf0a78c75d5e4d09',31);
INSERT INTO "chain_link" VALUES(32,'audit',21,1,'2878fc5bd2371be0eab0581017efe58286fcf8a1c5a57bb48064aaf45d99dfa4','8f49d2a7606cda41f5483124ed7b80a67a087580bc5db8177ba9a5b4a4d6e01d',32);
INSERT INTO "chain_link" VALUES(33,'audit',22,1,'de1938021f61012475b40862c2ecaef3b81f14735753abf810607225d2365e92','c6051000547a1b292684e89a81ec4a7efd612f9b903d831cf83a9aa020df6e67',33);
INSERT INTO "chain_link" VALUES(34,'audit',23,1,'c831278e6a5c5ce3ee51f41e78c939ab88bf526c546179444ee1ef4bda55008b','f8ff46fbbd4f10b81357ae9f3a767eaecb2a1b3268a504d668e142078904a4b8',34);
INSERT INTO "chain_link" VALUES(35,'audit',24,1,'876b793e5d38615334d7615bd8bcd956903b410f229e6e5626aea32e0592a2b3','014b368b5c1be0d4aa0d2f2303546b49bacfd870d3a3ca3518c92e92d855337c',35);
INSERT INTO "chain_link" VALUES(36,'audit',25,1,'c991033228c7480a85e1d891a47c8109a1f6318ad20eccaa9dbcf7c66af6e751','5bd6d4c446005d66a110e861c87ac8a54791d807e4e96620ed48d8dc8945ea75',36);
INSERT INTO "chain_link" VALUES(37,'audit',26,1,'3d3ce3d92156351bc5c0fd30f8cc7a2d306a3395b27e05868a341cf22f020e8e','fcd0b2adf147683b0fe39ca903c2b79e3e7f804a130183b0b0810472efce9c02',37);
INSERT INTO "chain_link" VALUES(38,'audit',27,1,'3930254da9b4fb2c0a8dd54ff88d968f2f8f71e25ae7f0a788e71f3b24b9ebff','eb557311a04bedc40b151d7fa2589bbdddf1b2d8b0a45b5a6717e1cc0e85f6dc',38);
INSERT INTO "chain_link" VALUES(39,'audit',28,1,'564280ff36f72ad6387a55c846f10f79cb655a048abd562bb01324fff04d4839','5c5823262cca5f26f2f5ea78c5c31e54e938704ba6f29252b8184d064b9708a8',39);
INSERT INTO "chain_link" VALUES(40,'audit',29,1,'7c580668cf79d0129f1c895abe512756b82ef7c1180f0620eac64346799dee75','9a7e835e268d2c998f98f51aefa92a7644b3cae5ae8cf8bc465152ca8ca6a4ff',40);
INSERT INTO "chain_link" VALUES(41,'audit',30,1,'376d6c23232c02475ba4e896e082b2efa48c73f6a5c39e5a188a03d5eaa360ce','04eed91ceb899d052aef0e6e4242100f0a9be661e26214da5f03c002fb46242d',41);
INSERT INTO "chain_link" VALUES(42,'audit',31,1,'a296e06712c9ecaf529fcddadef13f01544308ef534c887e27af6820738d8c0a','6b804dc973380b393b2e3548c5996f356ab91a981b823f72b9c0281507857456',42);
INSERT INTO "chain_link" VALUES(43,'audit',32,1,'bc7a96a7b02b7df0c2cbb9b2d832e081f93d660a7c1b3d685362d9d2799d27e2','3d54cc8c6658902e4abf5a30271bc12496ce9b037e8d8dfce9c7284bae9f9f98',43);
INSERT INTO "chain_link" VALUES(44,'audit',33,1,'48815c814d397df284b05e1f8040bd3665fde2c9f14b773000798f8f518761b2','35e47bb8c33ed55458d4ae0a7623ec0960016850c24a8b925208d8ad4b503649',44);
INSERT INTO "chain_link" VALUES(45,'audit',34,1,'7dde17fb10d243bcb836952a14e8de768d86bb89437a6d1fc77a91c0064dc4d3','0c113e96ea68bad55a529c46b0123cce6870a3de488099e048a27f6b9beee51d',45);
INSERT INTO "chain_link" VALUES(46,'audit',35,1,'9162f18acfce18335b52097a2dffca585d8c392f55bbd5d2d2acb36d789e3f3c','9a944a5f5e0772f9b8ac32cdd1673be964fdaf7dd7e42ea0fd7d5a607bf49a51',46);
INSERT INTO "chain_link" VALUES(47,'audit',36,1,'94008eb9699054698bc869201ccabd7f5efaf31cce4c35df1806ab2c20e1445a','8f5e98b560f3d7274f1e117d34f4e0103383db05a031b1009c4ee0ca4e436fab',47);
INSERT INTO "chain_link" VALUES(48,'audit',37,1,'e50a00799404ea80bc901ba3aa69a4a9f0a11ce6a1428b74e4414f1ad61e57fe','501ccaac43070e6cf951167e6376c26d1aebecaabf5f88b50c2b27113352d1eb',48);
INSERT INTO "chain_link" VALUES(49,'audit',38,1,'606f099bc11aade70e255df856ffc2d5e90d7d871807747bab29fc6a55adeb3c','3a5499b4dfe1f2edbc30637cb7e51315365ab122867de4d6c66fd9df27f07f39',49);
INSERT INTO "chain_link" VALUES(50,'audit',39,1,'2bf411b336ab9573b912703179a16768cff6c5d85d1b97a2a691907bdf33d37a','55b06f80aa3332309b12afc181a1fea34744b39389e725dfd937be9fbecbbe6c',50);
INSERT INTO "chain_link" VALUES(51,'audit',40,1,'bc6f4fb575393beca90ba397d17c1a5f8da684b954ba78309be31da7110fecc9','3dfeb5cd8859ffbb327fc012a19baebac307e99f6eef42e37a5bc3cc9d03c4ae',51);
INSERT INTO "chain_link" VALUES(52,'audit',41,1,'a2f819ec830f710dcd1c5ea6d564b26c4356af132ee6acbb6d56b7c078a3e8da','f646b7547d8412dd04dc78e4754e5712168fdc3837c8b048d0782824bccecf01',52);
INSERT INTO "chain_link" VALUES(53,'audit',42,1,'a35c83ddad75c8a95201b04cc26f2081b1582120cd2f88dbeb47d33e8c879a86','7dfa80df51020fb1cfe964c89e2a8e62e9b349896eb493c366629fdd49d4dccc',53);
INSERT INTO "chain_link" VALUES(54,'audit',43,1,'c049bfd0943ff1af1d0123f212429c2109bd3dfa7133679f543182216da0c1b8','235dd2047d80636879a6a3664d4f0839d11334ccd62d007c27ff7558a481707e',54);
INSERT INTO "chain_link" VALUES(55,'audit',44,1,'816edb822fae4f77f4735fa1b6470bd20be9f9c9872a8a02ab6a9af81406d0a1','1d16c0a0c283bd4546e1cadd9a06502e3dcefd02bb8d38f7f03fba0fc216094b',55);
INSERT INTO "chain_link" VALUES(56,'audit',45,1,'5e91c739d9c8db82ebb764ca408d295bbfe93b9e10446a29ad4c1b2c6fede942','bde3f7313bfa537d339b1e4402a5c2b10feb9099a46e396de5201c823982346c',56);
INSERT INTO "chain_link" VALUES(57,'audit',46,1,'ad79c3efb89c9b766b6c821c3593448b1c188f1dda05010baecc1c38da3f34fb','c5662d4f932f744ffe24bc4520ed8fd577d7f6fe0feb1a93c74d5998097d3642',57);
INSERT INTO "chain_link" VALUES(58,'audit',47,1,'0163aaecb9e1cc31325e655201e61ff686b16f03d0ab19343765bc618d1e0241','76cf7e362b3354f995b8f27e3064889619d4dbd2939fbe52514f4c95c947289b',58);
INSERT INTO "chain_link" VALUES(59,'audit',48,1,'5d63220e62d541b938d797fef2197a1be6bb61979e1cdd74da04ab9d3170a3f3','ad5043e4c0cc5ac5d0f7e2d5fc293f634b67fe0b474621af753391f3009c6827',59);
INSERT INTO "chain_link" VALUES(60,'audit',49,1,'f9d23739b9ce5ff2364e13643092989dbead15e7a9d26b48d8bdaadce3253b4d','9fcb5de42bbe94764fa8a40ac91b3200cae698bc5ef287ac7d51c398abeee664',60);
INSERT INTO "chain_link" VALUES(61,'audit',50,1,'6204bf0f76f1876ff0976bfc5a4623d663b84176b50ce3b2a0bedd456c2bbfbc','9675954dec9069692ff9fc8fa305371914a7999fd74b3def6916b0cf30179faa',61);
INSERT INTO "chain_link" VALUES(62,'audit',51,1,'b1da342a74fb86168265c796f57f1b0fb25fbe895775820007bf470d041ebd09','48ffea9fd77b2195a7b12dc59c0622ea06e66ce4f0029559cf5c0471cdacbdbe',62);
INSERT INTO "chain_link" VALUES(63,'audit',52,1,'d37b627df72cbaf1d94e5cbcc4fec0e41b3af92b330f46e5fad2926ae2095587','72ced4cb540685390f945681aa42f9b513a67bbf8ca65f631cbd03527e17ad49',63);
INSERT INTO "chain_link" VALUES(64,'audit',53,1,'cfd51feac4a6531dc4edc8724cbeb8ed58ed4183c0ac12980bee1dc0a8ad14cb','b76319128c2393985f1b36a9cf23a5e2da2766c54d38b48f026dcb954ba70e26',64);
INSERT INTO "chain_link" VALUES(65,'audit',54,1,'ff58c7d24401a4b729633b5541e0563cc3d7317b5b3f84c8c5c8d6fb21f028cb','0c35f3e4112dab41b96fe4f50a7fa295fbefbebd990786e013f45f8a11c6da83',65);
INSERT INTO "chain_link" VALUES(66,'audit',55,1,'ab1cbd572d50309bdb102a07eb5af4ec19336e6ad220955fcb93b00cd883d3e4','cfcf605577c12989f8041e599dede15d4cb50390fb92383ee1b4cdf0543d84f8',66);
INSERT INTO "chain_link" VALUES(67,'audit',56,1,'6a3ff5dbab4175c7f21726af29a1f24fae53425a4f41dad0a2d1e1d996d7ea77','56c0df9e6bf4c4c0617cd8994391e474664a347b08582d0da48f316bcc6ca412',67);
INSERT INTO "chain_link" VALUES(68,'audit',57,1,'613fa6c0492fecdc2e914a26f7f9e9332a81b68edf7f717d1b55ff896ada3747','b946fae4164e63883c879feb4efb7c169a0fddddaa3ecdab797efffb126fd6e6',68);
INSERT INTO "chain_link" VALUES(69,'audit',58,1,'4cee88da5b45503fe0fdfa37344f27f61853a313c648d62edeba8f54457b5c70','fcf8aeeae0a2e89ab29de0365e85e8ef1a46e360e43822b2ed2949263af442ed',69);
INSERT INTO "chain_link" VALUES(70,'audit',59,1,'47e41b65ba444a64f9873435bca748f326c10781eae4493ae0301183e511ad8f','6f2a9b2d9bc2817972f57e43d523dd6affaa5a54ff519f49357d5a7c7639ce92',70);
INSERT INTO "chain_link" VALUES(71,'audit',60,1,'96b6bdb11badd360369c3eec7c8092a103852028ba6c90d59789183eea11ab0d','eb1faf04f7f0ef9f6c0a7de2b91534c8eba67b265e8cba43ac1f38a1a5838f6c',71);
INSERT INTO "chain_link" VALUES(72,'audit',61,1,'db3cd4024ad12eec9e1769fb4e64218107edaeac27a9e63b32a69b72079b363d','bbbfd96a2b068450a3510d97573ce7a4255b9884ba622cf64f60901c14fb4287',72);
INSERT INTO "chain_link" VALUES(73,'audit',62,1,'b8e4d00f4826ae447fcf5dd9351f57a94c9f5df06cc0110935a8383fc0791e98','8e983fbdd4d2d8204003a913f204f2d2592cdfb14a91691544ad67f10ac1b2e9',73);
INSERT INTO "chain_link" VALUES(74,'audit',63,1,'7b2b99f2420816c6450e0fa88ebd6eab6faff603734f33acbf0e0aededa3dc73','071d768fbc9937818e2d696da8dcd2b5207f3bf7946a1207a024c346b13f2306',74);
INSERT INTO "chain_link" VALUES(75,'audit',64,1,'83bce22fd96bcef234ad0c41c42dff33b9d1f3b334659d6b4a7f7fd155648faf','ee1ca0280d788d63a1553856b1e15103c97644f5a11cc2c797147905da747848',75);
INSERT INTO "chain_link" VALUES(76,'audit',65,1,'92e4c7eaa0bbcfef2e165ba65551422b5a5fc8ca577c41b58c06f28fc6a9b2a8','4f7136f10584da8d6b98c06fe9cac0d29d649feba5c18a8f1514b33c61cb7246',76);
INSERT INTO "chain_link" VALUES(77,'audit',66,1,'a0fc8e7d53cb5b2110e6de299c634219ade27434e5e0ad4d03c02f5e67c4a60c','d21aba59b892dda3b87f109167109c40b02447822d145513f67cca3d34b3f6fa',77);
INSERT INTO "chain_link" VALUES(78,'audit',67,1,'e65457e54ffbd447ed8dc20aba9c31f32d38434a302000460c5937ca7e47bf90','f1cd72d25d0e0ef31f48438524512837dd4150d3adf5fff20e13098f4f42117c',78);
INSERT INTO "chain_link" VALUES(79,'audit',68,1,'899baafe98a3ce67b0c30edfafcbcd15b53f9db384a10a99e2dcdc9eeb15e4c8','64b11048c53a0db328a4bbedcb58a6ad8a677bfa8de510c75ac7e6c3584b0f67',79);
INSERT INTO "chain_link" VALUES(80,'audit',69,1,'3be5c9c2a227bc6461167b25a10a34838e2e10904ed2e8a0ac3495d7672cd991','bac92c8282a9ecfc573426b2e4348818b263e38a772a3632066fc58ceff87ce7',80);
INSERT INTO "chain_link" VALUES(81,'audit',70,1,'bfb6f27b4af8dc92ab0ddab5730efedddda854dfce572ce3e8307bab3d02663f','a66857636e82e21d2041a1f356499dd56a3681494788476f48cb234f1cf9c652',81);
INSERT INTO "chain_link" VALUES(82,'audit',71,1,'2fe229c02fa0211328c9dc14f09e645430839857d89258be64e22d90e3c34265','819803cd6390ef6ae4c4c1747ac763fe7971538c5c5a7d6624ea1a74bc8ff5db',82);
INSERT INTO "chain_link" VALUES(83,'audit',72,1,'a14008988fdf3360a9ff05b70f842d5073cf9c5391e248a3a3dc8514e6ec0be5','e58b206b21f6a37ae44e7aa3d4f2144f4bf9a0da61cf2e75637b694151c3c95a',83);
INSERT INTO "chain_link" VALUES(84,'audit',73,1,'0e65e6ed18f9e7867d306957e63b56bdc38045a522ed7ed0c0981552b1e149ce','a243970adfba7e79ceb38c9c0137c4666432217f6b322116811669cdcabffea9',84);
INSERT INTO "chain_link" VALUES(85,'audit',74,1,'c83df30b1d0b7a6a71d48c09a4d3679409e3bf5c9ecb2fea4683fa5f69afd23c','8fe286826c6e9eb1b1e3290eeb00da425e3ab2fd392d37527fa6b471bf2d9252',85);
INSERT INTO "chain_link" VALUES(86,'audit',75,1,'3d33ee7f963d2d076ecbb392de496e05ed0750c25c04e658827317fa4489eccb','53dc8709f64b38d9a0ca078bc788cb905b9750fa09bc3ff580fafcdb44aad064',86);
INSERT INTO "chain_link" VALUES(87,'audit',76,1,'3b415028e904fce5cc25b50d29d769962e611180978d49ab4eab8fe5073d68f4','ab7c6f4b2b08db92b63e42f45ecb496df66c4b847758b7078c19f0eef5cc3ad7',87);
INSERT INTO "chain_link" VALUES(88,'audit',77,1,'8e18c63791f1ccd0b6db82f35ed3041cb30ac2891e0117d36c841d9957cbb63f','96fa803c44d4b9127e3bb09c0f52d546fb49bb21a9061b4f84550148ab7413a9',88);
INSERT INTO "chain_link" VALUES(89,'audit',78,1,'b4c8c33c7fce150ef5d73a509558ec25b1cd5c14b2be8f539b93d3020919ef75','0eaa4c29e5b9f4d8153c7c7d53565be7cd7ad3c895d49c7c2bbfa3271c0ff39b',89);
INSERT INTO "chain_link" VALUES(90,'audit',79,1,'6d021f02b5a0d812dd586f0cdc1e6fae4e7b5e67d7e087cc4bbe8f9aa20ffa92','2fde039e036d92a8338ddb505b4fdc5c5785579ec60a4004d4f37ea2340571f5',90);
INSERT INTO "chain_link" VALUES(91,'audit',80,1,'1e7060f23df66cd14bcbc59afa4b2816318da20b5d62e2fa03f776588b4afdaa','dce78732d6f5232100e5af9feb9b9cbe23f439bf13bb03ac970b1b8d76150d7f',91);
INSERT INTO "chain_link" VALUES(92,'audit',81,1,'024e875e38def9ff8da1a61590f3e1e1590f9635212b686c773ddead6565d13b','2340a629bc46ea28e66408deed13502a074e53dd62abbcbe7cae096640314ee5',92);
INSERT INTO "chain_link" VALUES(93,'audit',82,1,'fb1e54ff54e4084e8788ffdf5edcf42826d82363fa9349c5526c036c3724fcb3','e6dde7f30c95ba4887befc7bfec12c3e229c54e7eaae24907c81f56f8c688a6d',93);
INSERT INTO "chain_link" VALUES(94,'audit',83,1,'bf8aa6638349d2da80d8fac8647a4e53da1c98c0d62b51d20de160f515c22336','f917b5f4999bd5a4afb00d193d425ab85f96e1221452f2253fa5af6f2bbcec01',94);
INSERT INTO "chain_link" VALUES(95,'audit',84,1,'4c1271d8b75ccafa40fa5dd24e49e38263aabf6ccafea7502f5d262367a02e74','4c59970b52d4775133ecc6928ebfe083e9e06fef82da063dd7e7a74553889230',95);
INSERT INTO "chain_link" VALUES(96,'audit',85,1,'0d571e82ac65905880341893b3dc795b7164fe05e75dd81f2b25422764a058a5','ccbec190dffbc9845bf8276c64e6075d2858655237c522ea82bbf9b1d8ed5644',96);
INSERT INTO "chain_link" VALUES(97,'audit',86,1,'1131cc375cf84350f93c3e1bbb316c00b4403f5cd6e142b121afa618f4996d6d','5ad6f81b42fe71b40f17ddbf5956ccea43b4e831e50f69cc53e2fabc1b7c0cea',97);
INSERT INTO "chain_link" VALUES(98,'audit',87,1,'e6d865672d564641229c71831ae3e700b9db71f22c618f09fb2b72c652971065','cbb45eb0e1f23514a31a7347d1ec0ce8e5a26e77feaf88668f4d3f84b334fce1',98);
INSERT INTO "chain_link" VALUES(99,'audit',88,1,'d455ebee736998a1d8ed1fcae210baea4f056842c5b00a90da78e8a5d086e529','eb83e86852412097258ce7b0ea00c70c10ac5cf81e1eb7f1be631bbc629a66ac',99);
INSERT INTO "chain_link" VALUES(100,'audit',89,1,'e75f4db1da20992d5f7b8a040902c79f2c734c5ed30c1a73090677d84f7400e7','0d33b6b28d3f573fbc0050149ae1055593d77d16ae7bdecc4d3a8bb039a6b091',100);
INSERT INTO "chain_link" VALUES(101,'audit',90,1,'1efb7072cb7f348bc1fbb788502b50dbeb43360a2330ca9739c1573dbbde16aa','9156e7847ba2ba4cc44a61f0a65959c710fa83a0a65a4a027c9b90ec0be9455b',101);
INSERT INTO "chain_link" VALUES(102,'audit',91,1,'c11396d9d7ef70ffd26237af8217bde81c6d05c30a375efcf28566ea8452f814','fba513cca421371a267bb74063869cdd2fa73cd40cf46a11954f9f17cff3df18',102);
INSERT INTO "chain_link" VALUES(103,'audit',92,1,'56cb32b7836b1a21c952608a96147d6d462aef8d7ef70dca86856b863df802be','2a6965bb5bdca4e3a2058d061d4b72798984dad716c144910256871d5d12e32f',103);
INSERT INTO "chain_link" VALUES(104,'audit',93,1,'547f30913bc084b306c3d678b4cb9198dc275803594b7113810f220696bbf483','729c455665ecdb1044aaa145d8ad013f5e3b060b5112ed3491faeb3cb3b15b41',104);
INSERT INTO "chain_link" VALUES(105,'audit',94,1,'53bebc551c1fee0e123d4d2a6ec05f98ad7dfb237965631457f9c5d316f78e28','27dad996a39bef05f96a4502aa76c62e9057075106ed364b71ffbf88a1638833',105);
INSERT INTO "chain_link" VALUES(106,'audit',95,1,'36f86864e815ffe21714a5c2fe5228daad957ee48bf2e50ad127cfe5d354004a','c28aa9fe0572ecd9307e0182b6b3a63fe8ab5bc2c2cfb3131523d8648c75db53',106);
INSERT INTO "chain_link" VALUES(107,'audit',96,1,'41ce2ee24abe7d7a0889ea7a1d7a8b598e635d1d88fc738719882ae10ac34f44','89a7e71547bbe9fe9c5f79b32a235922428e6b3bf5aee9476d1ce1bce1a831ec',107);
INSERT INTO "chain_link" VALUES(108,'audit',97,1,'8583fa0d4251ee342dfc1e106028d532fdd83dd9bdbb487465dd822bb442e16a','7fbff6c6eae9b13133dbf36af1f2d004f6b0fbe27aee74c05f6aff3fa8d62efb',108);
INSERT INTO "chain_link" VALUES(109,'audit',98,1,'0d964d67611becf95e8cfc741e75ef365c290c2c8137a96851b76c0a8eaa4add','6246f0d0f5462eabec185fac08a39ccfa1ee586e50850784ebb7b9996bc1cc08',109);
INSERT INTO "chain_link" VALUES(110,'audit',99,1,'f450e4e353c6d8265d08ffec5dbffe33b512db59755ee883b7982df62305fb5a','f63b85a59c67451f18ff54a4285855bdde14ecdfe0eb6216dfe6c003c76dcd11',110);
INSERT INTO "chain_link" VALUES(111,'audit',100,1,'4ac347f34da0cf7f9e3f7cb9ec320fb483b0e6397debb3d1fce7a120d82270cf','c211160201a9c9bb6849a652759d2b6a769e847495bdf87391102be089c8fb29',111);
INSERT INTO "chain_link" VALUES(112,'audit',101,1,'6d86fad06d725bda8b10c51a935491d9324352c2d5f0ecd92bf227ed04e7e855','86c7c4d36b8a6918a279ac4de958b8c6034315a9811c3ffec2c43ebf3dd590a6',112);
INSERT INTO "chain_link" VALUES(113,'audit',102,1,'1d643f4ab75a0c4433dfa97c93e8dfd2c7c6ea4961217f80cd5513bb64f76e15','ee284677c791ba63f14fc13132424f8847199fba60562787bb395c46f0b145df',113);
INSERT INTO "chain_link" VALUES(114,'audit',103,1,'1ec92527a16366ce50edb7b821b526c601cc9d76d616424837cdb9a4f91d5195','14060d735379e244c781f7d00907f7a9b76397f216335f8e81513566b7c7b9f2',114);
INSERT INTO "chain_link" VALUES(115,'audit',104,1,'0867578e0871f9105ec8e4c4e0bd417ccc1dfbbf56ee498436d5a16a5f2d2b7e','b5f2372ddf28cdba0ef0617b642c07ba2237c549086831f6348c8b8c43133f69',115);
INSERT INTO "chain_link" VALUES(116,'audit',105,1,'8072822ba5a9e3737cd502d73e79c35503e7ac348c8a46c5f44aa9346749790c','20ce19c205f11d0a04328c668a725ecf3fb9241b13c74d4f0dc646982a438c02',116);
INSERT INTO "chain_link" VALUES(117,'audit',106,1,'f764c2493bf2543562c5fb2d386fd109c1bac7288d582c59884d43f58554de19','1aa6726d9a2e773280ac19a3c5714a71fd74fd632f24ed2a07101d7400bf1070',117);
INSERT INTO "chain_link" VALUES(118,'audit',107,1,'698a98d63c62b259a997b084ff233fe546c2885edfb58508482974bedddc0e80','b822be96dc49550e136592c05776820a115550ecaf0ee4b681c066f0449a3541',118);
INSERT INTO "chain_link" VALUES(119,'audit',108,1,'166526a16104df52efdb36389a2136e78c92e1c82dca08e6d522e665b070b433','8eff427379f73e6330f8534c727f89ea396476fa36fb19ee7eadfffbc02dff6e',119);
INSERT INTO "chain_link" VALUES(120,'audit',109,1,'d37189947e782a3aaf480f8fcab7315fe49aa60cd5685826d965a8b87aceb3fc','f4ce6c3deff0a013f14b9fdb00d9614ca3599feea71aad1e7b2cf9964f90c059',120);
INSERT INTO "chain_link" VALUES(121,'audit',110,1,'fab0d8e275c889a9489ba05118ffb5e3a8ea468c7e9fa52ec85a3a99aa734988','8e149ee086afa9a25616f9641efcb893415c3b2a088bae3ff447deeddbba5b73',121);
INSERT INTO "chain_link" VALUES(122,'audit',111,1,'dc79225892298adf279baa1c6e7a6e178829cc4f1d0fb3581d784d72e85e4afd','340102074d1293551256b776e84cf0f83f5890dde2cd0b4927506be68d8132e8',122);
INSERT INTO "chain_link" VALUES(123,'audit',112,1,'c587e6e10f502345faaaa5a66d55a0fc68ce77601387cba6c7fa2310b6b6803a','0d27ef497707b0d6e955c2fde55c57b5882b8e11e447399d1afce01924b18639',123);
INSERT INTO "chain_link" VALUES(124,'audit',113,1,'7cc131e96ee0af7afa84f537aba822b146b5167e6d62f364cf67ed1c4c0cff40','48e4be8978192c9a7ea5b722f1d7f35077744187defabe644b0662a20ca0a1b7',124);
INSERT INTO "chain_link" VALUES(125,'audit',114,1,'788c33e793808de1ab42a0db4683e3aec8c50e036bbf54f656ff9cd0558e0da7','9439a9367070b02f9f86fc90e84ad00d245a689e3787f48eddfe23ea4a0907b8',125);
INSERT INTO "chain_link" VALUES(126,'audit',115,1,'4d1ec86209ff4e24481a120e7ac4d4b86178d949638ef8d272044d5d28ec6231','4af586e510aedb4e17dee25b9c904ffd1c499550062daa8105a274f2de43abfb',126);
INSERT INTO "chain_link" VALUES(127,'audit',116,1,'6aa2a3b0edb154cf5482ea849f8564f7e30bc60b508561d4c86e3b841ec70284','71b13a6777044143cde564fe6b1dfee323907b56b969b4d23e9b924fe195748a',127);
INSERT INTO "chain_link" VALUES(128,'audit',117,1,'42f1263fafc88b5a6d22f1c2cc0ba793b4216c64cf7c41001b19c8dd2c0094a6','1846c9bc29077e23faba6f235551dbe726aa6cce983cf065a9ddcbda94153a2f',128);
INSERT INTO "chain_link" VALUES(129,'audit',118,1,'7ff40a4a96806905034021768c63e9f50288c07cdbad2c96e098383aa7e2f740','906a6cc3303ef48b4c15f5aae8ce9fa857e40f81e21dfb7a69da61b1c994186c',129);
INSERT INTO "chain_link" VALUES(130,'audit',119,1,'012a656928114833ac54d74f773a8665e8308ddbea513d74ebb599984e20c4cf','c7833f59d2b9fcb98537bda9ef378756140accf3c22db53edf5d10284bee8e94',130);
INSERT INTO "chain_link" VALUES(131,'audit',120,1,'b3c24851eab66b971fa9735c390e63179896352680eddbd317cffa4951485009','aeb91a62f827006d6ad3ec4ed5be0acc459e7a97f675eadebc88c5f2a001845f',131);
INSERT INTO "chain_link" VALUES(132,'audit',121,1,'515c78e50717f3874f10b04bba0e215af1f679d7b4276d8df3b3858021d82b3e','034cd2a93e71ea5ae6a42cb91e4a13c99d8db6c26d977592d6a79fa78d2ed2ee',132);
INSERT INTO "chain_link" VALUES(133,'audit',122,1,'eb4c1d23a369eba9b37601b9b9eff336b9ff6be16cb073a46d4513ec0887264c','78690f183d859e38cf1748c4c8c803672313306822ee29eea75eb5310033fc27',133);
INSERT INTO "chain_link" VALUES(134,'audit',123,1,'344310c8e393b4157979cc78b1a853777c7bb6ce8ed50d159a8be1ccd80dbc62','25e9312178fd0bc3c7a2d375072c6cc65c1d8c49ec599779537f9e4fb491f1dc',134);
INSERT INTO "chain_link" VALUES(135,'audit',124,1,'dd8d6ffa920274a6723ceae697018346e148945d6de9e61a9aaa56a02072522e','555a0fffa34fd89b279c8f143997eabf6821561c8ac13984e78061058f95ba23',135);
INSERT INTO "chain_link" VALUES(136,'audit',125,1,'9877b833687603281e07f1604799b90cb9febc39a9eda7945885015fb8ad2511','ff1879bb923f9c2ae664857d279e19a49ffe8eae5199e150e2aefd23a5489e2d',136);
INSERT INTO "chain_link" VALUES(137,'audit',126,1,'aff0c58c42597305a7e4ead845d6eb0e40e7b37257b1b4923c3a8dbfbfa2e41d','2fd5a6adcbf103a235e6727a95d0eacb58862abd275faebd792c8f92d19e8fb9',137);
INSERT INTO "chain_link" VALUES(138,'audit',127,1,'20fa376def0be3abca6b516c805cc62fb00e67910bb2d5e2f6645c8f716310ce','3c6969234b0e5826f53005eb5c51a5c04f901b49207437c2cd91499abc183014',138);
INSERT INTO "chain_link" VALUES(139,'audit',128,1,'73f6ea2645ca06ed9e62ef943d5311359e5a73210cfdc7e832e2b3e58617516f','251ddaeaf70183488b2911a90a8fdc4b74698a85ed98a61407e9f57bd627d2a1',139);
INSERT INTO "chain_link" VALUES(140,'audit',129,1,'0ae329f11a3643413df7d1a307698d53f2bc0ff63c19e81e9cf68c026dbc50e4','4ed03d3afea4a1f2b9e1b0c5384e7d829b5eb16018a3d01a728a667cf9cdd408',140);
INSERT INTO "chain_link" VALUES(141,'audit',130,1,'a339849ac5050d79baed340ebed5e551be9b493e16a62892a312b58a3dc98560','3f23f80b45ef06127d2a6ddf81cace382586ea74456ded77ccd7d9ba385d8687',141);
INSERT INTO "chain_link" VALUES(142,'audit',131,1,'043ac83152314ef4fb61c0ca23f7fe1e3b9438a6f8f838129600cdfa80e98546','a31de14f9556e55a47dd20d323fd76fe53c80f81d08fa5a66747d0f21c6f798d',142);
INSERT INTO "chain_link" VALUES(143,'audit',132,1,'820c299a9203c147e1172da44816a0e2b04a5dc2c8509191e3d12c6fb2cde901','f385a5522fe205c26d8af86f1ba3eb20a8228a5852a43d3020838af872b05ed8',143);
INSERT INTO "chain_link" VALUES(144,'audit',133,1,'3add9b1f0e3d06e6c2c47321661803bbad93234b958f1f39226c0eb3eac447f6','a8218104b3378de130344a5b5ce6fbc7c54b4f10ca56ad7ee201ac76a929c1b3',144);
INSERT INTO "chain_link" VALUES(145,'audit',134,1,'bae34362f7c84a39704e3226f8d6b246c070ec1e8005c4c7d4f27915ad3f8851','c081d1e6489e5411e5088a53f4586d0e1f73b61bb21af4420702d056c65ae16b',145);
INSERT INTO "chain_link" VALUES(146,'audit',135,1,'9b49d8009d0c159b7fecd6b710aa1c9c14716953980e7004cd83b2826fb70076','60a0e7df04bebc878f0ddc068800f6ae10a1f659d7c2fe90985ec2ce707a891a',146);
INSERT INTO "chain_link" VALUES(147,'audit',136,1,'ef37cb4ec79776f4ab86fc21ca4933c0d54487f27c4e23492669216563fc59b3','b0690b42ff0e95e891225e64f42b3ffa89829d1761673bb481d39e3b4fc05e86',147);
INSERT INTO "chain_link" VALUES(148,'audit',137,1,'e319546391037c0e5a73131f03d4dcbe17bd53ebcfab7b998ee117e387ff091e','7512d76183cc9133e7980ad7e5ee20f6c5a0ad50738856b0e0bca08cc966d709',148);
INSERT INTO "chain_link" VALUES(149,'audit',138,1,'8898d1c22ce6816174881a77e02226f92ca548a7215e7a702298652e22de00b1','02565f454635c1abeb8c82eee1a369005b4b38b239f7dfb4cf775befaf16c18d',149);
INSERT INTO "chain_link" VALUES(150,'audit',139,1,'3d38031508a2df5db21eeac0688f4e7c5d42f5af34e3cf04f11b879a2799d73f','de342983696d4e5bc24f9db61c2cbd2ba2ec6b501b730f1cecf3b239dc85a232',150);
INSERT INTO "chain_link" VALUES(151,'audit',140,1,'d8f59fee591a982b9bfe2aefce4c38e8a5c5d43b0ea2855dd56b92538af7da93','43ca58690c5535fea08659ee8453d4be5959320ca7d34c41ba4680fc7dc693b8',151);
INSERT INTO "chain_link" VALUES(152,'audit',141,1,'8603a40148824c8fc73d490d715f49aad724b4e313850a6ce2d87c1216835754','1549e8b26b88aa7c3b4969781f318975487c51ebb5d84341bc0b92ce9e939179',152);
INSERT INTO "chain_link" VALUES(153,'audit',142,1,'e9cd949dc6b96c80bffd10af1f9b0f1b993a0959d04bb2b04b03e37a5ba2ad26','9c527ddbcd136252901a2f27a48519932baf52c07f3ac88ba6a976ac28bcde83',153);
INSERT INTO "chain_link" VALUES(154,'audit',143,1,'7d80003c030d0058511419f9be05e96dd33beeb06b4f90cbd4a0265da3435d1e','a55171e8bee7a2b8d1597fce49557d6df15a6a679a040ce7a7b151a7ab261858',154);
INSERT INTO "chain_link" VALUES(155,'audit',144,1,'dc66633d803cc33b397cc16b3cdeb60b3f288096f6e4b80f87a1ce094810dfb6','41e91206e7e71cf922424d34b9664b7741b69bcea52e3f71517e281bcd3c5678',155);
INSERT INTO "chain_link" VALUES(156,'audit',145,1,'81230760e3f1f5c209255c70b21d71e7c3f0a7f0bb60a972a2dccde83911f65d','3eed16d194c21a023d053a5d5bdd5879462a0d6dbcc4f22efa444a8458037776',156);
INSERT INTO "chain_link" VALUES(157,'audit',146,1,'5a6c6c2281071b5f7a7388c51870cca0283665f8fdf4e0315e050f17b6577754','56acf696937608faa741e6fe62a6013d949952c8bd1479b57bcbf31ce38a6e6a',157);
INSERT INTO "chain_link" VALUES(158,'audit',147,1,'eaaa141bbf7c996899fc0f0d6584a14b72c0e84f1490cd8f32dc12526c323327','8cbdbbae46ea84d8b1e5263268f1952921909a43ba82cd654d52565a424328e2',158);
INSERT INTO "chain_link" VALUES(159,'audit',148,1,'2ebd4d6844c5d50c417888a88d09aa26f57b64c155d3c79678be1f097d5bd3b2','ea0d0b6e7ded0c37f88139962cfe831a14c9b6616f755308773b36189dc0e493',159);
CREATE TABLE characterisation (
	run_id INTEGER NOT NULL, 
	tool_id INTEGER, 
	model_id INTEGER, 
	at DATETIME NOT NULL, 
	target DOUBLE NOT NULL, 
	reproducibility DOUBLE, 
	output_drive DOUBLE, 
	interface DOUBLE, 
	loading_point DOUBLE, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_characterisation PRIMARY KEY (id), 
	CONSTRAINT fk_characterisation_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT fk_characterisation_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT fk_characterisation_model_id_tool_model FOREIGN KEY(model_id) REFERENCES tool_model (id)
);
INSERT INTO "characterisation" VALUES(1,1,NULL,'2026-03-02 09:12:00.000000',10.0,NULL,NULL,3.00000000000000710542e-01,9.99999999999996447286e-02,1);
CREATE TABLE content (
	digest VARCHAR(200) NOT NULL, 
	data BLOB NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_content PRIMARY KEY (id), 
	CONSTRAINT uq_content_digest UNIQUE (digest)
);
CREATE TABLE "cross_check" (
	reference_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	against VARCHAR(200) NOT NULL, 
	indicated DOUBLE NOT NULL, 
	actual DOUBLE NOT NULL, 
	note TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	cross_run_id INTEGER, 
	CONSTRAINT pk_cross_check PRIMARY KEY (id), 
	CONSTRAINT fk_cross_check_reference_id_reference FOREIGN KEY(reference_id) REFERENCES reference (id), 
	CONSTRAINT fk_cross_check_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_cross_check_cross_run_id_cross_run FOREIGN KEY(cross_run_id) REFERENCES cross_run (id)
);
CREATE TABLE cross_reading (
	cross_run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	target DOUBLE NOT NULL, 
	indicated DOUBLE NOT NULL, 
	actual DOUBLE NOT NULL, 
	uncertainty DOUBLE NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_cross_reading PRIMARY KEY (id), 
	CONSTRAINT fk_cross_reading_cross_run_id_cross_run FOREIGN KEY(cross_run_id) REFERENCES cross_run (id), 
	CONSTRAINT fk_cross_reading_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
CREATE TABLE cross_run (
	reference_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	"by" VARCHAR(200) NOT NULL, 
	against VARCHAR(200) NOT NULL, 
	detail TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_cross_run PRIMARY KEY (id), 
	CONSTRAINT fk_cross_run_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_cross_run_reference_id_reference FOREIGN KEY(reference_id) REFERENCES reference (id)
);
CREATE TABLE cross_strike (
	cross_reading_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	reason TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_cross_strike PRIMARY KEY (id), 
	CONSTRAINT fk_cross_strike_cross_reading_id_cross_reading FOREIGN KEY(cross_reading_id) REFERENCES cross_reading (id), 
	CONSTRAINT fk_cross_strike_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT uq_cross_strike_cross_reading_id UNIQUE (cross_reading_id)
);
CREATE TABLE exercise_pull (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	direction VARCHAR(200) NOT NULL, 
	torque DOUBLE, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_exercise_pull PRIMARY KEY (id), 
	CONSTRAINT fk_exercise_pull_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "exercise_pull" VALUES(1,'2026-03-02 09:00:00.000000','cw',NULL,1);
INSERT INTO "exercise_pull" VALUES(1,'2026-03-02 09:00:00.000000','cw',NULL,2);
INSERT INTO "exercise_pull" VALUES(1,'2026-03-02 09:00:00.000000','cw',NULL,3);
INSERT INTO "exercise_pull" VALUES(1,'2026-03-02 09:00:00.000000','cw',NULL,4);
INSERT INTO "exercise_pull" VALUES(1,'2026-03-02 09:00:00.000000','cw',NULL,5);
INSERT INTO "exercise_pull" VALUES(2,'2026-03-03 09:00:00.000000','cw',NULL,6);
INSERT INTO "exercise_pull" VALUES(2,'2026-03-03 09:00:00.000000','cw',NULL,7);
INSERT INTO "exercise_pull" VALUES(2,'2026-03-03 09:00:00.000000','cw',NULL,8);
INSERT INTO "exercise_pull" VALUES(2,'2026-03-03 09:00:00.000000','cw',NULL,9);
INSERT INTO "exercise_pull" VALUES(2,'2026-03-03 09:00:00.000000','cw',NULL,10);
INSERT INTO "exercise_pull" VALUES(3,'2026-03-04 09:00:00.000000','cw',NULL,11);
INSERT INTO "exercise_pull" VALUES(3,'2026-03-04 09:00:00.000000','cw',NULL,12);
INSERT INTO "exercise_pull" VALUES(3,'2026-03-04 09:00:00.000000','cw',NULL,13);
INSERT INTO "exercise_pull" VALUES(3,'2026-03-04 09:00:00.000000','cw',NULL,14);
INSERT INTO "exercise_pull" VALUES(3,'2026-03-04 09:00:00.000000','cw',NULL,15);
INSERT INTO "exercise_pull" VALUES(4,'2026-03-05 09:00:00.000000','cw',NULL,16);
INSERT INTO "exercise_pull" VALUES(4,'2026-03-05 09:00:00.000000','ccw',NULL,17);
INSERT INTO "exercise_pull" VALUES(5,'2026-03-05 09:00:00.000000','cw',NULL,18);
INSERT INTO "exercise_pull" VALUES(5,'2026-03-05 09:00:00.000000','ccw',NULL,19);
INSERT INTO "exercise_pull" VALUES(6,'2026-03-14 09:00:00.000000','cw',NULL,20);
INSERT INTO "exercise_pull" VALUES(6,'2026-03-14 09:00:00.000000','cw',NULL,21);
INSERT INTO "exercise_pull" VALUES(6,'2026-03-14 09:00:00.000000','cw',NULL,22);
CREATE TABLE gear (
	kind VARCHAR(200) NOT NULL, 
	number VARCHAR(200) NOT NULL, 
	serial VARCHAR(200) NOT NULL, 
	due DATE, 
	box VARCHAR(200), 
	weighed_on DATE, 
	weighed_with VARCHAR(200), 
	shows_mass BOOLEAN, 
	stamped DOUBLE, 
	weighed DOUBLE, 
	mass_uncertainty DOUBLE, 
	bears DOUBLE, 
	scale_step DOUBLE, 
	scale_uncertainty DOUBLE, 
	reaches DOUBLE, 
	gauge_step DOUBLE, 
	force_uncertainty DOUBLE, 
	graduation DOUBLE, 
	length_uncertainty DOUBLE, 
	angle_uncertainty DOUBLE, 
	version INTEGER NOT NULL, 
	removed BOOLEAN NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_gear PRIMARY KEY (id), 
	CONSTRAINT uq_gear_number UNIQUE (number)
);
CREATE TABLE inspection_line (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	line VARCHAR(200) NOT NULL, 
	fine BOOLEAN NOT NULL, 
	note TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_inspection_line PRIMARY KEY (id), 
	CONSTRAINT fk_inspection_line_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "inspection_line" VALUES(1,'2026-03-02 09:00:00.000000','Drive and ratchet',1,'',1);
INSERT INTO "inspection_line" VALUES(1,'2026-03-02 09:00:00.000000','Scale and lock',1,'',2);
INSERT INTO "inspection_line" VALUES(1,'2026-03-02 09:00:00.000000','Housing and handle',1,'',3);
INSERT INTO "inspection_line" VALUES(1,'2026-03-02 09:00:00.000000','No sign of a fall',1,'',4);
INSERT INTO "inspection_line" VALUES(2,'2026-03-03 09:00:00.000000','Drive and ratchet',1,'',5);
INSERT INTO "inspection_line" VALUES(2,'2026-03-03 09:00:00.000000','Scale and lock',1,'',6);
INSERT INTO "inspection_line" VALUES(2,'2026-03-03 09:00:00.000000','Housing and handle',1,'',7);
INSERT INTO "inspection_line" VALUES(2,'2026-03-03 09:00:00.000000','No sign of a fall',1,'',8);
INSERT INTO "inspection_line" VALUES(3,'2026-03-04 09:00:00.000000','Drive and ratchet',1,'',9);
INSERT INTO "inspection_line" VALUES(3,'2026-03-04 09:00:00.000000','Scale and lock',1,'',10);
INSERT INTO "inspection_line" VALUES(3,'2026-03-04 09:00:00.000000','Housing and handle',1,'',11);
INSERT INTO "inspection_line" VALUES(3,'2026-03-04 09:00:00.000000','No sign of a fall',1,'',12);
INSERT INTO "inspection_line" VALUES(4,'2026-03-05 09:00:00.000000','Drive',1,'',13);
INSERT INTO "inspection_line" VALUES(4,'2026-03-05 09:00:00.000000','Bar',1,'',14);
INSERT INTO "inspection_line" VALUES(4,'2026-03-05 09:00:00.000000','Pointer and scale',1,'',15);
INSERT INTO "inspection_line" VALUES(4,'2026-03-05 09:00:00.000000','No sign of a fall',1,'',16);
INSERT INTO "inspection_line" VALUES(5,'2026-03-05 09:00:00.000000','Drive',1,'',17);
INSERT INTO "inspection_line" VALUES(5,'2026-03-05 09:00:00.000000','Bar',1,'',18);
INSERT INTO "inspection_line" VALUES(5,'2026-03-05 09:00:00.000000','Pointer and scale',1,'',19);
INSERT INTO "inspection_line" VALUES(5,'2026-03-05 09:00:00.000000','No sign of a fall',1,'',20);
INSERT INTO "inspection_line" VALUES(6,'2026-03-14 09:00:00.000000','Drive and ratchet',1,'',21);
INSERT INTO "inspection_line" VALUES(6,'2026-03-14 09:00:00.000000','Scale and lock',1,'',22);
INSERT INTO "inspection_line" VALUES(6,'2026-03-14 09:00:00.000000','Housing and handle',1,'',23);
INSERT INTO "inspection_line" VALUES(6,'2026-03-14 09:00:00.000000','No sign of a fall',1,'',24);
CREATE TABLE observation (
	series_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	kind VARCHAR(200) NOT NULL, 
	torque DOUBLE, 
	tool_value DOUBLE, 
	source VARCHAR(200) NOT NULL, 
	pull VARCHAR(200), 
	detail TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_observation PRIMARY KEY (id), 
	CONSTRAINT fk_observation_series_id_series FOREIGN KEY(series_id) REFERENCES series (id), 
	CONSTRAINT fk_observation_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
INSERT INTO "observation" VALUES(1,'2026-03-02 09:00:00.000000',1,'value',10.0,NULL,'typed',NULL,'{}',1);
INSERT INTO "observation" VALUES(1,'2026-03-02 09:00:00.000000',1,'value',10.05,NULL,'typed',NULL,'{}',2);
INSERT INTO "observation" VALUES(2,'2026-03-02 09:00:00.000000',1,'value',10.1,NULL,'typed',NULL,'{}',3);
INSERT INTO "observation" VALUES(2,'2026-03-02 09:00:00.000000',1,'value',10.15,NULL,'typed',NULL,'{}',4);
INSERT INTO "observation" VALUES(3,'2026-03-02 09:00:00.000000',1,'value',10.2,NULL,'typed',NULL,'{}',5);
INSERT INTO "observation" VALUES(3,'2026-03-02 09:00:00.000000',1,'value',10.25,NULL,'typed',NULL,'{}',6);
INSERT INTO "observation" VALUES(4,'2026-03-02 09:00:00.000000',1,'value',10.3,NULL,'typed',NULL,'{}',7);
INSERT INTO "observation" VALUES(4,'2026-03-02 09:00:00.000000',1,'value',10.35,NULL,'typed',NULL,'{}',8);
INSERT INTO "observation" VALUES(5,'2026-03-02 09:00:00.000000',1,'value',10.4,NULL,'typed',NULL,'{}',9);
INSERT INTO "observation" VALUES(5,'2026-03-02 09:00:00.000000',1,'value',10.45,NULL,'typed',NULL,'{}',10);
INSERT INTO "observation" VALUES(6,'2026-03-02 09:00:00.000000',1,'value',10.5,NULL,'typed',NULL,'{}',11);
INSERT INTO "observation" VALUES(6,'2026-03-02 09:00:00.000000',1,'value',10.55,NULL,'typed',NULL,'{}',12);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:00:00.000000',1,'value',9.3,NULL,'meter trace',NULL,'{}',13);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:00:00.000000',1,'value',9.3093,NULL,'typed',NULL,'{}',14);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:00:00.000000',1,'value',9.3186,NULL,'typed',NULL,'{}',15);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:00:00.000000',1,'value',9.3,NULL,'typed',NULL,'{}',16);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:00:00.000000',1,'value',9.3093,NULL,'typed',NULL,'{}',17);
INSERT INTO "observation" VALUES(8,'2026-03-03 09:00:00.000000',1,'value',2.79558000000000035352e+01,NULL,'typed',NULL,'{}',18);
INSERT INTO "observation" VALUES(8,'2026-03-03 09:00:00.000000',1,'value',2.79000000000000021311e+01,NULL,'typed',NULL,'{}',19);
INSERT INTO "observation" VALUES(8,'2026-03-03 09:00:00.000000',1,'value',2.79278999999999975054e+01,NULL,'typed',NULL,'{}',20);
INSERT INTO "observation" VALUES(8,'2026-03-03 09:00:00.000000',1,'value',2.79558000000000035352e+01,NULL,'typed',NULL,'{}',21);
INSERT INTO "observation" VALUES(8,'2026-03-03 09:00:00.000000',1,'value',2.79000000000000021311e+01,NULL,'typed',NULL,'{}',22);
INSERT INTO "observation" VALUES(9,'2026-03-03 09:00:00.000000',1,'value',4.65464999999999946584e+01,NULL,'typed',NULL,'{}',23);
INSERT INTO "observation" VALUES(9,'2026-03-03 09:00:00.000000',1,'value',46.593,NULL,'typed',NULL,'{}',24);
INSERT INTO "observation" VALUES(9,'2026-03-03 09:00:00.000000',1,'value',46.5,NULL,'typed',NULL,'{}',25);
INSERT INTO "observation" VALUES(9,'2026-03-03 09:00:00.000000',1,'value',4.65464999999999946584e+01,NULL,'typed',NULL,'{}',26);
INSERT INTO "observation" VALUES(9,'2026-03-03 09:00:00.000000',1,'value',46.593,NULL,'typed',NULL,'{}',27);
INSERT INTO "observation" VALUES(7,'2026-03-03 09:15:00.000000',1,'value',9.31,NULL,'typed',NULL,'{}',28);
INSERT INTO "observation" VALUES(10,'2026-03-03 09:25:12.000000',1,'value',9.9,NULL,'typed',NULL,'{}',29);
INSERT INTO "observation" VALUES(11,'2026-03-03 09:30:00.000000',1,'value',9.9,NULL,'meter trace',NULL,'{}',30);
INSERT INTO "observation" VALUES(11,'2026-03-03 09:30:00.000000',1,'value',9.9098999999999985988e+00,NULL,'typed',NULL,'{}',31);
INSERT INTO "observation" VALUES(11,'2026-03-03 09:30:00.000000',1,'value',9.9198,NULL,'typed',NULL,'{}',32);
INSERT INTO "observation" VALUES(11,'2026-03-03 09:30:00.000000',1,'value',9.9,NULL,'typed',NULL,'{}',33);
INSERT INTO "observation" VALUES(11,'2026-03-03 09:30:00.000000',1,'value',9.9098999999999985988e+00,NULL,'typed',NULL,'{}',34);
INSERT INTO "observation" VALUES(12,'2026-03-03 09:30:00.000000',1,'value',29.7594,NULL,'typed',NULL,'{}',35);
INSERT INTO "observation" VALUES(12,'2026-03-03 09:30:00.000000',1,'value',29.7,NULL,'typed',NULL,'{}',36);
INSERT INTO "observation" VALUES(12,'2026-03-03 09:30:00.000000',1,'value',2.97296999999999975736e+01,NULL,'typed',NULL,'{}',37);
INSERT INTO "observation" VALUES(12,'2026-03-03 09:30:00.000000',1,'value',29.7594,NULL,'typed',NULL,'{}',38);
INSERT INTO "observation" VALUES(12,'2026-03-03 09:30:00.000000',1,'value',29.7,NULL,'typed',NULL,'{}',39);
INSERT INTO "observation" VALUES(13,'2026-03-03 09:30:00.000000',1,'value',4.95494999999999947721e+01,NULL,'typed',NULL,'{}',40);
INSERT INTO "observation" VALUES(13,'2026-03-03 09:30:00.000000',1,'value',49.599,NULL,'typed',NULL,'{}',41);
INSERT INTO "observation" VALUES(13,'2026-03-03 09:30:00.000000',1,'value',49.5,NULL,'typed',NULL,'{}',42);
INSERT INTO "observation" VALUES(13,'2026-03-03 09:30:00.000000',1,'value',4.95494999999999947721e+01,NULL,'typed',NULL,'{}',43);
INSERT INTO "observation" VALUES(13,'2026-03-03 09:30:00.000000',1,'value',49.599,NULL,'typed',NULL,'{}',44);
INSERT INTO "observation" VALUES(14,'2026-03-04 09:00:00.000000',1,'value',9.0,NULL,'meter trace',NULL,'{}',45);
INSERT INTO "observation" VALUES(14,'2026-03-04 09:00:00.000000',1,'value',9.0089999999999985647e+00,NULL,'typed',NULL,'{}',46);
INSERT INTO "observation" VALUES(14,'2026-03-04 09:00:00.000000',1,'value',9.018,NULL,'typed',NULL,'{}',47);
INSERT INTO "observation" VALUES(14,'2026-03-04 09:00:00.000000',1,'value',9.0,NULL,'typed',NULL,'{}',48);
INSERT INTO "observation" VALUES(14,'2026-03-04 09:00:00.000000',1,'value',9.0089999999999985647e+00,NULL,'typed',NULL,'{}',49);
INSERT INTO "observation" VALUES(15,'2026-03-04 09:00:00.000000',1,'value',27.054,NULL,'typed',NULL,'{}',50);
INSERT INTO "observation" VALUES(15,'2026-03-04 09:00:00.000000',1,'value',27.0,NULL,'typed',NULL,'{}',51);
INSERT INTO "observation" VALUES(15,'2026-03-04 09:00:00.000000',1,'value',2.70269999999999974713e+01,NULL,'typed',NULL,'{}',52);
INSERT INTO "observation" VALUES(15,'2026-03-04 09:00:00.000000',1,'value',27.054,NULL,'typed',NULL,'{}',53);
INSERT INTO "observation" VALUES(15,'2026-03-04 09:00:00.000000',1,'value',27.0,NULL,'typed',NULL,'{}',54);
INSERT INTO "observation" VALUES(16,'2026-03-04 09:00:00.000000',1,'value',4.50449999999999946016e+01,NULL,'typed',NULL,'{}',55);
INSERT INTO "observation" VALUES(16,'2026-03-04 09:00:00.000000',1,'value',45.09,NULL,'typed',NULL,'{}',56);
INSERT INTO "observation" VALUES(16,'2026-03-04 09:00:00.000000',1,'value',45.0,NULL,'typed',NULL,'{}',57);
INSERT INTO "observation" VALUES(16,'2026-03-04 09:00:00.000000',1,'value',4.50449999999999946016e+01,NULL,'typed',NULL,'{}',58);
INSERT INTO "observation" VALUES(16,'2026-03-04 09:00:00.000000',1,'value',45.09,NULL,'typed',NULL,'{}',59);
INSERT INTO "observation" VALUES(17,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'meter trace',NULL,'{}',60);
INSERT INTO "observation" VALUES(17,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',61);
INSERT INTO "observation" VALUES(17,'2026-03-05 09:00:00.000000',1,'value',4.04808,NULL,'typed',NULL,'{}',62);
INSERT INTO "observation" VALUES(17,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',63);
INSERT INTO "observation" VALUES(17,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',64);
INSERT INTO "observation" VALUES(18,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',65);
INSERT INTO "observation" VALUES(18,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',66);
INSERT INTO "observation" VALUES(18,'2026-03-05 09:00:00.000000',1,'value',12.13212,NULL,'typed',NULL,'{}',67);
INSERT INTO "observation" VALUES(18,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',68);
INSERT INTO "observation" VALUES(18,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',69);
INSERT INTO "observation" VALUES(19,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',70);
INSERT INTO "observation" VALUES(19,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',71);
INSERT INTO "observation" VALUES(19,'2026-03-05 09:00:00.000000',1,'value',20.2,NULL,'typed',NULL,'{}',72);
INSERT INTO "observation" VALUES(19,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',73);
INSERT INTO "observation" VALUES(19,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',74);
INSERT INTO "observation" VALUES(20,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',75);
INSERT INTO "observation" VALUES(20,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',76);
INSERT INTO "observation" VALUES(20,'2026-03-05 09:00:00.000000',1,'value',4.04808,NULL,'typed',NULL,'{}',77);
INSERT INTO "observation" VALUES(20,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',78);
INSERT INTO "observation" VALUES(20,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',79);
INSERT INTO "observation" VALUES(21,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',80);
INSERT INTO "observation" VALUES(21,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',81);
INSERT INTO "observation" VALUES(21,'2026-03-05 09:00:00.000000',1,'value',12.13212,NULL,'typed',NULL,'{}',82);
INSERT INTO "observation" VALUES(21,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',83);
INSERT INTO "observation" VALUES(21,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',84);
INSERT INTO "observation" VALUES(22,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',85);
INSERT INTO "observation" VALUES(22,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',86);
INSERT INTO "observation" VALUES(22,'2026-03-05 09:00:00.000000',1,'value',20.2,NULL,'typed',NULL,'{}',87);
INSERT INTO "observation" VALUES(22,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',88);
INSERT INTO "observation" VALUES(22,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',89);
INSERT INTO "observation" VALUES(23,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'meter trace',NULL,'{}',90);
INSERT INTO "observation" VALUES(23,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',91);
INSERT INTO "observation" VALUES(23,'2026-03-05 09:00:00.000000',1,'value',4.04808,NULL,'typed',NULL,'{}',92);
INSERT INTO "observation" VALUES(23,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',93);
INSERT INTO "observation" VALUES(23,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',94);
INSERT INTO "observation" VALUES(24,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',95);
INSERT INTO "observation" VALUES(24,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',96);
INSERT INTO "observation" VALUES(24,'2026-03-05 09:00:00.000000',1,'value',12.13212,NULL,'typed',NULL,'{}',97);
INSERT INTO "observation" VALUES(24,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',98);
INSERT INTO "observation" VALUES(24,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',99);
INSERT INTO "observation" VALUES(25,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',100);
INSERT INTO "observation" VALUES(25,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',101);
INSERT INTO "observation" VALUES(25,'2026-03-05 09:00:00.000000',1,'value',20.2,NULL,'typed',NULL,'{}',102);
INSERT INTO "observation" VALUES(25,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',103);
INSERT INTO "observation" VALUES(25,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',104);
INSERT INTO "observation" VALUES(26,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',105);
INSERT INTO "observation" VALUES(26,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',106);
INSERT INTO "observation" VALUES(26,'2026-03-05 09:00:00.000000',1,'value',4.04808,NULL,'typed',NULL,'{}',107);
INSERT INTO "observation" VALUES(26,'2026-03-05 09:00:00.000000',1,'value',4.04,NULL,'typed',NULL,'{}',108);
INSERT INTO "observation" VALUES(26,'2026-03-05 09:00:00.000000',1,'value',4.04404,NULL,'typed',NULL,'{}',109);
INSERT INTO "observation" VALUES(27,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',110);
INSERT INTO "observation" VALUES(27,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',111);
INSERT INTO "observation" VALUES(27,'2026-03-05 09:00:00.000000',1,'value',12.13212,NULL,'typed',NULL,'{}',112);
INSERT INTO "observation" VALUES(27,'2026-03-05 09:00:00.000000',1,'value',1.21442400000000017001e+01,NULL,'typed',NULL,'{}',113);
INSERT INTO "observation" VALUES(27,'2026-03-05 09:00:00.000000',1,'value',1.21200000000000009949e+01,NULL,'typed',NULL,'{}',114);
INSERT INTO "observation" VALUES(28,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',115);
INSERT INTO "observation" VALUES(28,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',116);
INSERT INTO "observation" VALUES(28,'2026-03-05 09:00:00.000000',1,'value',20.2,NULL,'typed',NULL,'{}',117);
INSERT INTO "observation" VALUES(28,'2026-03-05 09:00:00.000000',1,'value',20.2202,NULL,'typed',NULL,'{}',118);
INSERT INTO "observation" VALUES(28,'2026-03-05 09:00:00.000000',1,'value',20.2404,NULL,'typed',NULL,'{}',119);
CREATE TABLE open_run (
	tool_id INTEGER NOT NULL, 
	run_id INTEGER NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_open_run PRIMARY KEY (id), 
	CONSTRAINT fk_open_run_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT fk_open_run_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT uq_open_run_tool_id UNIQUE (tool_id), 
	CONSTRAINT uq_open_run_run_id UNIQUE (run_id)
);
INSERT INTO "open_run" VALUES(3,5,1);
INSERT INTO "open_run" VALUES(2,6,2);
CREATE TABLE "person" (
	initials VARCHAR(200) NOT NULL, 
	name VARCHAR(200) NOT NULL, 
	may_adjust BOOLEAN NOT NULL, 
	id INTEGER NOT NULL, 
	version INTEGER DEFAULT '1' NOT NULL, 
	removed BOOLEAN DEFAULT 0 NOT NULL, may_sign BOOLEAN DEFAULT 1 NOT NULL, may_second BOOLEAN DEFAULT 1 NOT NULL, may_edit BOOLEAN DEFAULT 1 NOT NULL, may_allow BOOLEAN DEFAULT 1 NOT NULL, left_on DATE, 
	CONSTRAINT pk_person PRIMARY KEY (id), 
	CONSTRAINT uq_person_initials UNIQUE (initials)
);
INSERT INTO "person" VALUES('K. L.','K. Loft',1,1,1,0,1,1,1,1,NULL);
INSERT INTO "person" VALUES('M. T.','M. Tarn',0,2,1,0,1,1,1,1,NULL);
CREATE TABLE point_result (
	signature_id INTEGER NOT NULL, 
	series_id INTEGER NOT NULL, 
	target DOUBLE NOT NULL, 
	direction VARCHAR(200) NOT NULL, 
	deviation DOUBLE NOT NULL, 
	worst DOUBLE NOT NULL, 
	expanded_uncertainty DOUBLE NOT NULL, 
	reference_error DOUBLE NOT NULL, 
	probability DOUBLE NOT NULL, 
	state VARCHAR(200) NOT NULL, 
	id INTEGER NOT NULL, near_zone DOUBLE DEFAULT '0' NOT NULL, "limit" DOUBLE, 
	CONSTRAINT pk_point_result PRIMARY KEY (id), 
	CONSTRAINT fk_point_result_series_id_series FOREIGN KEY(series_id) REFERENCES series (id), 
	CONSTRAINT fk_point_result_signature_id_signature FOREIGN KEY(signature_id) REFERENCES signature (id)
);
INSERT INTO "point_result" VALUES(2,7,10.0,'cw',7.41788980993327573543e-02,7.52688172043010084166e-02,3.69182067867504584701e-02,8.47457627118644151592e-04,3.20415545859457848165e-02,'outside-near',1,0.0377656644138691,NULL);
INSERT INTO "point_result" VALUES(2,8,30.0,'cw',7.41954802221364700942e-02,7.52688172043010084166e-02,1.29003876828668387344e-02,5.08474576271186447587e-04,5.74383745607506156259e-08,'outside',2,1.34088622591380258325e-02,NULL);
INSERT INTO "point_result" VALUES(2,9,50.0,'cw',7.39806412976202337761e-02,7.52688172043010084166e-02,8.39052542262269836215e-03,1.69491525423728852002e-04,2.7532768426522128012e-16,'outside',3,8.56001694804642797309e-03,NULL);
INSERT INTO "point_result" VALUES(2,11,10.0,'cw',9.29413939756900189803e-03,1.01010101010101660534e-02,3.47181667734226193089e-02,8.47457627118644151592e-04,9.59283745207043625491e-01,'inside-near',4,3.55656244005412638942e-02,NULL);
INSERT INTO "point_result" VALUES(2,12,30.0,'cw',9.09272384503747622963e-03,1.01010101010101660534e-02,1.21997387326452030875e-02,5.08474576271186447587e-04,0.999999797800273,'inside',5,1.27082133089163901856e-02,NULL);
INSERT INTO "point_result" VALUES(2,13,50.0,'cw',0.0088909054614009,1.01010101010101660534e-02,8.00452061135655673629e-03,1.69491525423728852002e-04,9.99999999999996114219e-01,'inside',6,8.17401213678028634723e-03,NULL);
INSERT INTO "point_result" VALUES(3,14,10.0,'cw',1.10223553337325877454e-01,1.11111111111111160454e-01,3.23130381903617633354e-02,8.47457627118644151592e-04,6.91782926975816505167e-06,'outside',7,3.31604958174804079207e-02,NULL);
INSERT INTO "point_result" VALUES(3,15,30.0,'cw',1.10001996229541182392e-01,1.11111111111111160454e-01,1.14423597794225274243e-02,5.08474576271186447587e-04,1.00324082234085127426e-34,'outside',8,1.19508343556937145224e-02,NULL);
INSERT INTO "point_result" VALUES(3,16,50.0,'cw',1.09779996007540958657e-01,1.11111111111111160454e-01,7.59136057117930709847e-03,1.69491525423728852002e-04,8.81420136129829441019e-76,'outside',9,7.76085209660303584205e-03,NULL);
INSERT INTO "point_result" VALUES(4,17,4.0,'cw',-1.0691883164759153485e-02,1.18772356277543345015e-02,4.06179010362619219431e-02,9.49152542372881397741e-04,9.92156814500832151537e-01,'inside',10,4.15670535786348063767e-02,NULL);
INSERT INTO "point_result" VALUES(4,18,12.0,'cw',-1.08893102905080144809e-02,1.18772356277545565461e-02,1.40783041001469547831e-02,8.13559322033898294455e-04,0.99999999999849,'inside',11,1.48918634221808527523e-02,NULL);
INSERT INTO "point_result" VALUES(4,19,20.0,'cw',-1.10871322705080824905e-02,1.18772356277544455238e-02,9.04636161739587676966e-03,6.7796610169491529959e-04,1.0,'inside',12,9.72432771909079174399e-03,NULL);
INSERT INTO "point_result" VALUES(4,20,4.0,'ccw',-1.0691883164759153485e-02,1.18772356277543345015e-02,4.06179010362619219431e-02,9.49152542372881397741e-04,9.92156814500832151537e-01,'inside',13,4.15670535786348063767e-02,NULL);
INSERT INTO "point_result" VALUES(4,21,12.0,'ccw',-1.08893102905080144809e-02,1.18772356277545565461e-02,1.40783041001469547831e-02,8.13559322033898294455e-04,0.99999999999849,'inside',14,1.48918634221808527523e-02,NULL);
INSERT INTO "point_result" VALUES(4,22,20.0,'ccw',-1.10871322705080824905e-02,1.18772356277544455238e-02,9.04636161739587676966e-03,6.7796610169491529959e-04,1.0,'inside',15,9.72432771909079174399e-03,NULL);
CREATE TABLE "reference" (
	number VARCHAR(200) NOT NULL, 
	serial VARCHAR(200) NOT NULL, 
	maker VARCHAR(200) NOT NULL, 
	model VARCHAR(200) NOT NULL, 
	minimum DOUBLE NOT NULL, 
	maximum DOUBLE NOT NULL, 
	resolution DOUBLE NOT NULL, 
	zero_tolerance DOUBLE NOT NULL, 
	corrected BOOLEAN NOT NULL, 
	link VARCHAR(200) NOT NULL, 
	id INTEGER NOT NULL, 
	version INTEGER DEFAULT '1' NOT NULL, 
	removed BOOLEAN DEFAULT 0 NOT NULL, 
	kind VARCHAR(200) DEFAULT 'meter' NOT NULL, error_left TEXT DEFAULT '' NOT NULL, unit VARCHAR(200) DEFAULT 'N.m' NOT NULL, 
	CONSTRAINT pk_reference PRIMARY KEY (id), 
	CONSTRAINT uq_reference_number UNIQUE (number)
);
INSERT INTO "reference" VALUES('M-1','M1','','',1.0,60.0,0.01,0.05,0,'stand-in',1,1,0,'meter','set aside by the owner','N.m');
CREATE TABLE register_version (
	kind VARCHAR(200) NOT NULL, 
	row_id INTEGER NOT NULL, 
	version INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER, 
	"before" TEXT NOT NULL, 
	"after" TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_register_version PRIMARY KEY (id), 
	CONSTRAINT fk_register_version_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT uq_register_version_kind UNIQUE (kind, row_id, version)
);
INSERT INTO "register_version" VALUES('tool',1,2,'2026-11-24 18:30:00.000000',1,'{"place": ""}','{"place": "Bay 4"}',1);
CREATE TABLE room_reading (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	temperature DOUBLE NOT NULL, 
	humidity DOUBLE NOT NULL, 
	note TEXT NOT NULL, 
	id INTEGER NOT NULL, source VARCHAR(200) DEFAULT 'typed' NOT NULL, 
	CONSTRAINT pk_room_reading PRIMARY KEY (id), 
	CONSTRAINT fk_room_reading_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "room_reading" VALUES(1,'2026-03-02 09:00:00.000000',21.0,0.5,'',1,'typed');
INSERT INTO "room_reading" VALUES(2,'2026-03-03 09:00:00.000000',21.0,0.5,'',2,'typed');
INSERT INTO "room_reading" VALUES(2,'2026-03-03 09:27:36.000000',21.4,0.5,'',3,'typed');
INSERT INTO "room_reading" VALUES(3,'2026-03-04 09:00:00.000000',21.0,0.5,'',4,'typed');
INSERT INTO "room_reading" VALUES(4,'2026-03-05 09:00:00.000000',21.0,0.5,'',5,'typed');
INSERT INTO "room_reading" VALUES(5,'2026-03-05 09:00:00.000000',21.0,0.5,'',6,'typed');
INSERT INTO "room_reading" VALUES(6,'2026-03-14 09:00:00.000000',21.0,0.5,'',7,'typed');
CREATE TABLE "run" (
	tool_id INTEGER NOT NULL, 
	kind VARCHAR(200) NOT NULL, 
	rule_set VARCHAR(200) NOT NULL, 
	opened_at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	id INTEGER NOT NULL, 
	adapter TEXT DEFAULT ('') NOT NULL, 
	plan_note TEXT DEFAULT ('') NOT NULL, 
	rule VARCHAR(200), 
	mode VARCHAR(200), 
	amends_id INTEGER, 
	event_id INTEGER, 
	CONSTRAINT pk_run PRIMARY KEY (id), 
	CONSTRAINT fk_run_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_run_amends_id_run FOREIGN KEY(amends_id) REFERENCES run (id), 
	CONSTRAINT fk_run_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT fk_run_event_id_tool_event FOREIGN KEY(event_id) REFERENCES tool_event (id)
);
INSERT INTO "run" VALUES(1,'characterise','iso-6789-2017','2026-03-02 09:00:00.000000',1,1,'','',NULL,NULL,NULL,NULL);
INSERT INTO "run" VALUES(1,'full','iso-6789-2017','2026-03-03 09:00:00.000000',1,2,'','',NULL,NULL,NULL,NULL);
INSERT INTO "run" VALUES(2,'full','iso-6789-2017','2026-03-04 09:00:00.000000',1,3,'','',NULL,NULL,NULL,NULL);
INSERT INTO "run" VALUES(3,'full','iso-6789-2017','2026-03-05 09:00:00.000000',1,4,'','',NULL,NULL,NULL,NULL);
INSERT INTO "run" VALUES(3,'full','iso-6789-2017','2026-03-06 09:00:00.000000',1,5,'','amends the run signed 5 Mar 2026: one value was misread',NULL,NULL,4,NULL);
INSERT INTO "run" VALUES(2,'check','quick-check','2026-03-14 09:00:00.000000',1,6,'','',NULL,NULL,NULL,4);
CREATE TABLE run_facts (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	document TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_run_facts PRIMARY KEY (id), 
	CONSTRAINT fk_run_facts_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "run_facts" VALUES(1,'2026-03-02 09:00:00.000000','{"version": 1, "tool": {"id": 1, "number": "W-1", "serial": "17", "maker": "Skerrivane", "model": "X-50", "model_id": 1, "type": "II", "class": "A", "mechanism": "click", "minimum": 10.0, "maximum": 50.0, "resolution": 0.5, "tolerance": null, "unit": "N.m", "drive": "3/8 in", "directions": ["cw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": 0.24, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": {"where": "behind the cap", "raises": "cw", "lock": "", "rate": 2.0, "most_turns": null, "relieve": false}}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": null, "on": null, "reproducibility": null, "output_drive": null, "interface": null, "loading_point": null}, "rules": {"name": "iso-6789-2017", "text": "# The published scheme as commonly taught. Check it against your own licensed copy of the standard.\nname = \"iso-6789-2017\"\ntitle = \"ISO 6789, 2017\"\nsource = \"ISO 6789-1:2017 and ISO 6789-2:2017\"\n\n# Permissible deviation by type and class; the column follows the tool''s maximum torque.\n[[limits]]\ntools = [\"I A\", \"I D\", \"II D\", \"II E\", \"II F\", \"II G\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [\"I B\", \"I C\", \"I E\", \"II A\", \"II B\", \"II C\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n\n[points]\nstated_minimum = true\nunstated_minimum = \"20 %\"\nof_maximum = [\"60 %\", \"100 %\"]\n\n[readings]\neach = 5\nby_tool = { \"II B\" = 10, \"II C\" = 10, \"II E\" = 10, \"II F\" = 10 }\n\n[exercise]\nreleases = 5\n\n[pull]\napproach = \"from below\"\nfrom = \"80 %\"\nshortest = \"0.5 s\"\nlongest = \"4 s\"\n\n[room]\ncoldest_C = 18.0\nwarmest_C = 28.0\ndrift_C = 1.0\nhumidity = \"90 %\"\n\n[reference]\nadequate = \"quarter-of-limit\"\nwithin = \"25 %\"\nleast_of_range = \"20 %\"\n\n[decision]\nrule = \"every-reading\"\nguard_factor = 1.0\nlevel = 0.95\ncoverage = \"k=2\"\n\n[interval]\nmonths = 12\ncycles = 5000\nrenews_due_date = true\n"}}',1);
INSERT INTO "run_facts" VALUES(2,'2026-03-03 09:00:00.000000','{"version": 1, "tool": {"id": 1, "number": "W-1", "serial": "17", "maker": "Skerrivane", "model": "X-50", "model_id": 1, "type": "II", "class": "A", "mechanism": "click", "minimum": 10.0, "maximum": 50.0, "resolution": 0.5, "tolerance": null, "unit": "N.m", "drive": "3/8 in", "directions": ["cw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": 0.24, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": {"where": "behind the cap", "raises": "cw", "lock": "", "rate": 2.0, "most_turns": null, "relieve": false}}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": "tool", "on": "2026-03-02", "reproducibility": null, "output_drive": null, "interface": 0.3000000000000007, "loading_point": 0.09999999999999964}, "rules": {"name": "iso-6789-2017", "text": "# The published scheme as commonly taught. Check it against your own licensed copy of the standard.\nname = \"iso-6789-2017\"\ntitle = \"ISO 6789, 2017\"\nsource = \"ISO 6789-1:2017 and ISO 6789-2:2017\"\n\n# Permissible deviation by type and class; the column follows the tool''s maximum torque.\n[[limits]]\ntools = [\"I A\", \"I D\", \"II D\", \"II E\", \"II F\", \"II G\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [\"I B\", \"I C\", \"I E\", \"II A\", \"II B\", \"II C\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n\n[points]\nstated_minimum = true\nunstated_minimum = \"20 %\"\nof_maximum = [\"60 %\", \"100 %\"]\n\n[readings]\neach = 5\nby_tool = { \"II B\" = 10, \"II C\" = 10, \"II E\" = 10, \"II F\" = 10 }\n\n[exercise]\nreleases = 5\n\n[pull]\napproach = \"from below\"\nfrom = \"80 %\"\nshortest = \"0.5 s\"\nlongest = \"4 s\"\n\n[room]\ncoldest_C = 18.0\nwarmest_C = 28.0\ndrift_C = 1.0\nhumidity = \"90 %\"\n\n[reference]\nadequate = \"quarter-of-limit\"\nwithin = \"25 %\"\nleast_of_range = \"20 %\"\n\n[decision]\nrule = \"every-reading\"\nguard_factor = 1.0\nlevel = 0.95\ncoverage = \"k=2\"\n\n[interval]\nmonths = 12\ncycles = 5000\nrenews_due_date = true\n"}}',2);
INSERT INTO "run_facts" VALUES(3,'2026-03-04 09:00:00.000000','{"version": 1, "tool": {"id": 2, "number": "W-2", "serial": "", "maker": "Skerrivane", "model": "X-50", "model_id": 1, "type": "II", "class": "A", "mechanism": "click", "minimum": 10.0, "maximum": 50.0, "resolution": 0.5, "tolerance": null, "unit": "N.m", "drive": "3/8 in", "directions": ["cw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": 0.24, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": {"where": "behind the cap", "raises": "cw", "lock": "", "rate": 2.0, "most_turns": null, "relieve": false}}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": null, "on": null, "reproducibility": null, "output_drive": null, "interface": null, "loading_point": null}, "rules": {"name": "iso-6789-2017", "text": "# The published scheme as commonly taught. Check it against your own licensed copy of the standard.\nname = \"iso-6789-2017\"\ntitle = \"ISO 6789, 2017\"\nsource = \"ISO 6789-1:2017 and ISO 6789-2:2017\"\n\n# Permissible deviation by type and class; the column follows the tool''s maximum torque.\n[[limits]]\ntools = [\"I A\", \"I D\", \"II D\", \"II E\", \"II F\", \"II G\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [\"I B\", \"I C\", \"I E\", \"II A\", \"II B\", \"II C\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n\n[points]\nstated_minimum = true\nunstated_minimum = \"20 %\"\nof_maximum = [\"60 %\", \"100 %\"]\n\n[readings]\neach = 5\nby_tool = { \"II B\" = 10, \"II C\" = 10, \"II E\" = 10, \"II F\" = 10 }\n\n[exercise]\nreleases = 5\n\n[pull]\napproach = \"from below\"\nfrom = \"80 %\"\nshortest = \"0.5 s\"\nlongest = \"4 s\"\n\n[room]\ncoldest_C = 18.0\nwarmest_C = 28.0\ndrift_C = 1.0\nhumidity = \"90 %\"\n\n[reference]\nadequate = \"quarter-of-limit\"\nwithin = \"25 %\"\nleast_of_range = \"20 %\"\n\n[decision]\nrule = \"every-reading\"\nguard_factor = 1.0\nlevel = 0.95\ncoverage = \"k=2\"\n\n[interval]\nmonths = 12\ncycles = 5000\nrenews_due_date = true\n"}}',3);
INSERT INTO "run_facts" VALUES(4,'2026-03-05 09:00:00.000000','{"version": 1, "tool": {"id": 3, "number": "B-1", "serial": "", "maker": "Ottermoor", "model": "B-20", "model_id": 2, "type": "I", "class": "A", "mechanism": "beam", "minimum": null, "maximum": 20.0, "resolution": 0.2, "tolerance": null, "unit": "N.m", "drive": "", "directions": ["cw", "ccw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": null, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": null}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": null, "on": null, "reproducibility": null, "output_drive": null, "interface": null, "loading_point": null}, "rules": {"name": "iso-6789-2017", "text": "# The published scheme as commonly taught. Check it against your own licensed copy of the standard.\nname = \"iso-6789-2017\"\ntitle = \"ISO 6789, 2017\"\nsource = \"ISO 6789-1:2017 and ISO 6789-2:2017\"\n\n# Permissible deviation by type and class; the column follows the tool''s maximum torque.\n[[limits]]\ntools = [\"I A\", \"I D\", \"II D\", \"II E\", \"II F\", \"II G\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [\"I B\", \"I C\", \"I E\", \"II A\", \"II B\", \"II C\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n\n[points]\nstated_minimum = true\nunstated_minimum = \"20 %\"\nof_maximum = [\"60 %\", \"100 %\"]\n\n[readings]\neach = 5\nby_tool = { \"II B\" = 10, \"II C\" = 10, \"II E\" = 10, \"II F\" = 10 }\n\n[exercise]\nreleases = 5\n\n[pull]\napproach = \"from below\"\nfrom = \"80 %\"\nshortest = \"0.5 s\"\nlongest = \"4 s\"\n\n[room]\ncoldest_C = 18.0\nwarmest_C = 28.0\ndrift_C = 1.0\nhumidity = \"90 %\"\n\n[reference]\nadequate = \"quarter-of-limit\"\nwithin = \"25 %\"\nleast_of_range = \"20 %\"\n\n[decision]\nrule = \"every-reading\"\nguard_factor = 1.0\nlevel = 0.95\ncoverage = \"k=2\"\n\n[interval]\nmonths = 12\ncycles = 5000\nrenews_due_date = true\n"}}',4);
INSERT INTO "run_facts" VALUES(5,'2026-03-06 09:00:00.000000','{"version": 1, "tool": {"id": 3, "number": "B-1", "serial": "", "maker": "Ottermoor", "model": "B-20", "model_id": 2, "type": "I", "class": "A", "mechanism": "beam", "minimum": null, "maximum": 20.0, "resolution": 0.2, "tolerance": null, "unit": "N.m", "drive": "", "directions": ["cw", "ccw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": null, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": null}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": null, "on": null, "reproducibility": null, "output_drive": null, "interface": null, "loading_point": null}, "rules": {"name": "iso-6789-2017", "text": "# The published scheme as commonly taught. Check it against your own licensed copy of the standard.\nname = \"iso-6789-2017\"\ntitle = \"ISO 6789, 2017\"\nsource = \"ISO 6789-1:2017 and ISO 6789-2:2017\"\n\n# Permissible deviation by type and class; the column follows the tool''s maximum torque.\n[[limits]]\ntools = [\"I A\", \"I D\", \"II D\", \"II E\", \"II F\", \"II G\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [\"I B\", \"I C\", \"I E\", \"II A\", \"II B\", \"II C\"]\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n\n[points]\nstated_minimum = true\nunstated_minimum = \"20 %\"\nof_maximum = [\"60 %\", \"100 %\"]\n\n[readings]\neach = 5\nby_tool = { \"II B\" = 10, \"II C\" = 10, \"II E\" = 10, \"II F\" = 10 }\n\n[exercise]\nreleases = 5\n\n[pull]\napproach = \"from below\"\nfrom = \"80 %\"\nshortest = \"0.5 s\"\nlongest = \"4 s\"\n\n[room]\ncoldest_C = 18.0\nwarmest_C = 28.0\ndrift_C = 1.0\nhumidity = \"90 %\"\n\n[reference]\nadequate = \"quarter-of-limit\"\nwithin = \"25 %\"\nleast_of_range = \"20 %\"\n\n[decision]\nrule = \"every-reading\"\nguard_factor = 1.0\nlevel = 0.95\ncoverage = \"k=2\"\n\n[interval]\nmonths = 12\ncycles = 5000\nrenews_due_date = true\n"}}',5);
INSERT INTO "run_facts" VALUES(6,'2026-03-14 09:00:00.000000','{"version": 1, "tool": {"id": 2, "number": "W-2", "serial": "", "maker": "Skerrivane", "model": "X-50", "model_id": 1, "type": "II", "class": "A", "mechanism": "click", "minimum": 10.0, "maximum": 50.0, "resolution": 0.5, "tolerance": null, "unit": "N.m", "drive": "3/8 in", "directions": ["cw"], "approach": "from below", "place": "", "rule_set": "iso-6789-2017", "interval_months": null, "lever": 0.24, "pivot": 0.0, "own_mass": null, "own_centre": null, "adjustment": {"where": "behind the cap", "raises": "cw", "lock": "", "rate": 2.0, "most_turns": null, "relieve": false}}, "reference": {"id": 1, "number": "M-1", "kind": "meter", "serial": "M1", "minimum": 1.0, "maximum": 60.0, "resolution": 0.01, "zero_tolerance": 0.05, "corrected": false, "certificate": {"id": 1, "number": "C-1", "laboratory": "Fell Laboratory", "issued": "2025-01-10", "due": "2026-12-31", "coverage_factor": 2.0, "points": [[1.0, 0.001, 0.004], [60.0, 0.0, 0.003]]}}, "effects": {"of": null, "on": null, "reproducibility": null, "output_drive": null, "interface": null, "loading_point": null}, "rules": {"name": "quick-check", "text": "# A short look at one point. It can release or hold a tool; it never renews the due date.\nname = \"quick-check\"\ntitle = \"Quick check\"\nsource = \"shop practice: one point, three readings after three releases\"\n# The limits of the tool''s own rule set; these for a tool without one.\n\n[points]\nstated_minimum = false\nof_maximum = [\"60 %\"]\n\n[readings]\neach = 3\n\n[exercise]\nreleases = 3\n\n[interval]\nmonths = 12\nrenews_due_date = false\n\n[[limits]]\ntools = [''I A'', ''I D'', ''II D'', ''II E'', ''II F'', ''II G'']\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"6 %\"\n\n[[limits]]\ntools = [''I B'', ''I C'', ''I E'', ''II A'', ''II B'', ''II C'']\nmax_to_10_Nm = \"6 %\"\nmax_above_10_Nm = \"4 %\"\n"}}',6);
CREATE TABLE run_sides (
	run_id INTEGER NOT NULL, 
	document TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_run_sides PRIMARY KEY (id), 
	CONSTRAINT fk_run_sides_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT uq_run_sides_run_id UNIQUE (run_id)
);
CREATE TABLE saved_filter (
	words VARCHAR(200) NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_saved_filter PRIMARY KEY (id), 
	CONSTRAINT uq_saved_filter_words UNIQUE (words)
);
CREATE TABLE seal (
	signature_id INTEGER NOT NULL, 
	key_id INTEGER NOT NULL, 
	mark BLOB NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_seal PRIMARY KEY (id), 
	CONSTRAINT fk_seal_key_id_signing_key FOREIGN KEY(key_id) REFERENCES signing_key (id), 
	CONSTRAINT fk_seal_signature_id_signature FOREIGN KEY(signature_id) REFERENCES signature (id), 
	CONSTRAINT uq_seal_signature_id UNIQUE (signature_id)
);
CREATE TABLE "series" (
	run_id INTEGER NOT NULL, 
	phase VARCHAR(200) NOT NULL, 
	direction VARCHAR(200) NOT NULL, 
	position INTEGER NOT NULL, 
	target DOUBLE NOT NULL, 
	wanted INTEGER NOT NULL, 
	id INTEGER NOT NULL, 
	turn DOUBLE, 
	round INTEGER DEFAULT '0' NOT NULL, 
	effect VARCHAR(200), 
	place INTEGER, 
	CONSTRAINT pk_series PRIMARY KEY (id), 
	CONSTRAINT fk_series_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT uq_series_run_id UNIQUE (run_id, phase, round, position)
);
INSERT INTO "series" VALUES(1,'measure','cw',0,10.0,2,1,NULL,0,'loading_point',0);
INSERT INTO "series" VALUES(1,'measure','cw',1,10.0,2,2,NULL,0,'loading_point',1);
INSERT INTO "series" VALUES(1,'measure','cw',2,10.0,2,3,NULL,0,'interface',0);
INSERT INTO "series" VALUES(1,'measure','cw',3,10.0,2,4,NULL,0,'interface',1);
INSERT INTO "series" VALUES(1,'measure','cw',4,10.0,2,5,NULL,0,'interface',2);
INSERT INTO "series" VALUES(1,'measure','cw',5,10.0,2,6,NULL,0,'interface',3);
INSERT INTO "series" VALUES(2,'found','cw',0,10.0,5,7,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(2,'found','cw',1,30.0,5,8,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(2,'found','cw',2,50.0,5,9,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(2,'adjust','cw',0,10.0,3,10,0.25,1,NULL,NULL);
INSERT INTO "series" VALUES(2,'left','cw',0,10.0,5,11,NULL,1,NULL,NULL);
INSERT INTO "series" VALUES(2,'left','cw',1,30.0,5,12,NULL,1,NULL,NULL);
INSERT INTO "series" VALUES(2,'left','cw',2,50.0,5,13,NULL,1,NULL,NULL);
INSERT INTO "series" VALUES(3,'found','cw',0,10.0,5,14,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(3,'found','cw',1,30.0,5,15,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(3,'found','cw',2,50.0,5,16,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','cw',0,4.0,5,17,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','cw',1,12.0,5,18,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','cw',2,20.0,5,19,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','ccw',3,4.0,5,20,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','ccw',4,12.0,5,21,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(4,'found','ccw',5,20.0,5,22,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','cw',0,4.0,5,23,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','cw',1,12.0,5,24,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','cw',2,20.0,5,25,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','ccw',3,4.0,5,26,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','ccw',4,12.0,5,27,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(5,'found','ccw',5,20.0,5,28,NULL,0,NULL,NULL);
INSERT INTO "series" VALUES(6,'found','cw',0,30.0,3,29,NULL,0,NULL,NULL);
CREATE TABLE "set_up" (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	reference_id INTEGER NOT NULL, 
	certificate_id INTEGER, 
	mode VARCHAR(200) NOT NULL, 
	override TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	detail TEXT DEFAULT '{}' NOT NULL, 
	CONSTRAINT pk_set_up PRIMARY KEY (id), 
	CONSTRAINT fk_set_up_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT fk_set_up_certificate_id_certificate FOREIGN KEY(certificate_id) REFERENCES certificate (id), 
	CONSTRAINT fk_set_up_reference_id_reference FOREIGN KEY(reference_id) REFERENCES reference (id)
);
INSERT INTO "set_up" VALUES(1,'2026-03-02 09:00:00.000000',1,1,'first peak','it is what there is',1,'{}');
INSERT INTO "set_up" VALUES(2,'2026-03-03 09:00:00.000000',1,1,'first peak','it is what there is',2,'{}');
INSERT INTO "set_up" VALUES(3,'2026-03-04 09:00:00.000000',1,1,'first peak','it is what there is',3,'{}');
INSERT INTO "set_up" VALUES(4,'2026-03-05 09:00:00.000000',1,1,'hold','it is what there is',4,'{}');
INSERT INTO "set_up" VALUES(5,'2026-03-05 09:00:00.000000',1,1,'hold','it is what there is',5,'{}');
INSERT INTO "set_up" VALUES(6,'2026-03-14 09:00:00.000000',1,1,'first peak','',6,'{}');
CREATE TABLE shop (
	name VARCHAR(200) NOT NULL, 
	address TEXT NOT NULL, 
	demands_passphrase BOOLEAN NOT NULL, 
	version INTEGER NOT NULL, 
	removed BOOLEAN NOT NULL, 
	id INTEGER NOT NULL, interval_school VARCHAR(200) DEFAULT 'fixed' NOT NULL, interval_target DOUBLE DEFAULT '0.95' NOT NULL, latitude DOUBLE, elevation DOUBLE, numbering VARCHAR(200) DEFAULT '' NOT NULL, label_sizes TEXT DEFAULT '' NOT NULL, 
	CONSTRAINT pk_shop PRIMARY KEY (id)
);
CREATE TABLE "signature" (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	state VARCHAR(200) NOT NULL, 
	accepted BOOLEAN, 
	sentence TEXT NOT NULL, 
	rule VARCHAR(200) NOT NULL, 
	"limit" DOUBLE NOT NULL, 
	due DATE, 
	due_reason VARCHAR(200), 
	id INTEGER NOT NULL, 
	note TEXT DEFAULT ('') NOT NULL, 
	outcome VARCHAR(200), 
	second_person_id INTEGER, 
	sequence INTEGER DEFAULT '0' NOT NULL, judged_on DATE, due_note TEXT DEFAULT '' NOT NULL, certificate VARCHAR(200) DEFAULT '' NOT NULL, 
	CONSTRAINT pk_signature PRIMARY KEY (id), 
	CONSTRAINT fk_signature_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT fk_signature_second_person_id_person FOREIGN KEY(second_person_id) REFERENCES person (id), 
	CONSTRAINT fk_signature_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT uq_signature_run_id UNIQUE (run_id)
);
INSERT INTO "signature" VALUES(1,'2026-03-02 09:12:00.000000',1,'outside-near',0,'Adapter positions 0.30 N·m, loading point 0.100 N·m at 10 N·m','every-reading',0.04,NULL,NULL,1,'','characterised',NULL,1,NULL,'','');
INSERT INTO "signature" VALUES(2,'2026-03-03 09:42:00.000000',1,'inside-near',1,'Clicks 1.0 % below its setting at 10 N·m; inside, near the fence, 3.0 % to spare','every-reading',0.04,'2027-03-03','calendar',2,'','released',NULL,3,NULL,'','');
INSERT INTO "signature" VALUES(3,'2026-03-04 10:00:00.000000',1,'outside',0,'Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much','every-reading',0.04,NULL,NULL,3,'','held',NULL,2,NULL,'','');
INSERT INTO "signature" VALUES(4,'2026-03-05 10:00:00.000000',1,'inside',1,'Delivers 1.2 % more than it shows at 12 N·m; inside, 4.8 % to spare','every-reading',0.06,'2027-03-05','calendar',4,'as every year','released',NULL,1,NULL,'','');
CREATE TABLE signing_key (
	person_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	salt BLOB NOT NULL, 
	cost INTEGER NOT NULL, 
	public BLOB NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_signing_key PRIMARY KEY (id), 
	CONSTRAINT fk_signing_key_person_id_person FOREIGN KEY(person_id) REFERENCES person (id)
);
CREATE TABLE "strike" (
	observation_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER NOT NULL, 
	reason TEXT NOT NULL, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_strike PRIMARY KEY (id), 
	CONSTRAINT fk_strike_observation_id_observation FOREIGN KEY(observation_id) REFERENCES observation (id), 
	CONSTRAINT fk_strike_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT uq_strike_observation_id UNIQUE (observation_id)
);
INSERT INTO "strike" VALUES(13,'2026-03-03 09:12:00.000000',1,'pulled too fast',1);
CREATE TABLE "tool" (
	number VARCHAR(200) NOT NULL, 
	serial VARCHAR(200) NOT NULL, 
	model_id INTEGER NOT NULL, 
	place VARCHAR(200) NOT NULL, 
	rule_set VARCHAR(200) NOT NULL, 
	interval_months INTEGER, 
	cycles_per_year INTEGER NOT NULL, 
	in_service DATE, 
	id INTEGER NOT NULL, 
	version INTEGER DEFAULT '1' NOT NULL, 
	removed BOOLEAN DEFAULT 0 NOT NULL, owner VARCHAR(200) DEFAULT '' NOT NULL, resolution DOUBLE, tolerance DOUBLE, lever_length DOUBLE, pivot_offset DOUBLE, own_mass DOUBLE, own_centre DOUBLE, zones TEXT DEFAULT '' NOT NULL, interval_school VARCHAR(200) DEFAULT '' NOT NULL, cycles_per_lent_day INTEGER DEFAULT '0' NOT NULL, 
	CONSTRAINT pk_tool PRIMARY KEY (id), 
	CONSTRAINT uq_tool_number UNIQUE (number), 
	CONSTRAINT fk_tool_model_id_tool_model FOREIGN KEY(model_id) REFERENCES tool_model (id)
);
INSERT INTO "tool" VALUES('W-1','17',1,'Bay 4','iso-6789-2017',NULL,0,NULL,1,2,0,'',NULL,NULL,NULL,NULL,NULL,NULL,'','',0);
INSERT INTO "tool" VALUES('W-2','',1,'','iso-6789-2017',NULL,0,NULL,2,1,0,'',NULL,NULL,NULL,NULL,NULL,NULL,'','',0);
INSERT INTO "tool" VALUES('B-1','',2,'','iso-6789-2017',NULL,0,NULL,3,1,0,'',NULL,NULL,NULL,NULL,NULL,NULL,'','',0);
CREATE TABLE tool_event (
	tool_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER, 
	kind VARCHAR(200) NOT NULL, 
	note TEXT NOT NULL, 
	due_back DATE, 
	id INTEGER NOT NULL, low DOUBLE, high DOUBLE, sequence INTEGER DEFAULT '0' NOT NULL, cycles INTEGER, 
	CONSTRAINT pk_tool_event PRIMARY KEY (id), 
	CONSTRAINT fk_tool_event_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_tool_event_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id)
);
INSERT INTO "tool_event" VALUES(1,'2026-03-03 09:42:00.000000',1,'adjusted','by K. L.',NULL,1,NULL,NULL,2,NULL);
INSERT INTO "tool_event" VALUES(2,'2026-03-04 10:00:00.000000',1,'held','as found: Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much',NULL,2,NULL,NULL,1,NULL);
INSERT INTO "tool_event" VALUES(1,'2026-03-12 09:00:00.000000',1,'lent','Bay crew','2026-03-20',3,NULL,NULL,4,NULL);
INSERT INTO "tool_event" VALUES(2,'2026-03-13 09:00:00.000000',NULL,'lock loose','creeps',NULL,4,NULL,NULL,3,NULL);
INSERT INTO "tool_event" VALUES(1,'2026-11-24 18:30:00.000000',1,'fell','from the bench',NULL,5,NULL,NULL,5,NULL);
CREATE TABLE tool_listing (
	tool_id INTEGER NOT NULL, 
	number VARCHAR(200) NOT NULL, 
	plain_number VARCHAR(200) NOT NULL, 
	plain_serial VARCHAR(200) NOT NULL, 
	words TEXT NOT NULL, 
	waits BOOLEAN NOT NULL, 
	due_on DATE, 
	held_back BOOLEAN NOT NULL, 
	lent BOOLEAN NOT NULL, 
	back_by DATE, 
	id INTEGER NOT NULL, place VARCHAR(200) DEFAULT '' NOT NULL, kind VARCHAR(200) DEFAULT '' NOT NULL, smallest DOUBLE DEFAULT '0' NOT NULL, full_scale DOUBLE DEFAULT '0' NOT NULL, 
	CONSTRAINT pk_tool_listing PRIMARY KEY (id), 
	CONSTRAINT fk_tool_listing_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT uq_tool_listing_tool_id UNIQUE (tool_id)
);
INSERT INTO "tool_listing" VALUES(1,'W-1','w1','17','w-1 17 skerrivane x-50 click wrench, 3/8 in 10–50 n·m bay 4 w1 10-50 n·m bay crew',0,'2027-03-03',1,1,'2026-03-20',1,'Bay 4','click wrench, 3/8 in',10.0,50.0);
INSERT INTO "tool_listing" VALUES(2,'W-2','w2','','w-2 skerrivane x-50 click wrench, 3/8 in 10–50 n·m w2 10-50 n·m',0,NULL,1,0,NULL,2,'','click wrench, 3/8 in',10.0,50.0);
INSERT INTO "tool_listing" VALUES(3,'B-1','b1','','b-1 ottermoor b-20 beam wrench 0–20 n·m b1 0-20 n·m',1,'2027-03-05',0,0,NULL,3,'','beam wrench',0.0,20.0);
CREATE TABLE "tool_model" (
	maker VARCHAR(200) NOT NULL, 
	name VARCHAR(200) NOT NULL, 
	type VARCHAR(200) NOT NULL, 
	class VARCHAR(200) NOT NULL, 
	mechanism VARCHAR(200) NOT NULL, 
	minimum DOUBLE, 
	maximum DOUBLE NOT NULL, 
	resolution DOUBLE NOT NULL, 
	unit VARCHAR(200) NOT NULL, 
	drive VARCHAR(200) NOT NULL, 
	directions VARCHAR(200) NOT NULL, 
	lever_length DOUBLE, 
	pivot_offset DOUBLE NOT NULL, 
	own_mass DOUBLE, 
	own_centre DOUBLE, 
	tolerance DOUBLE, 
	approach VARCHAR(200) NOT NULL, 
	id INTEGER NOT NULL, 
	adjust_where TEXT DEFAULT ('') NOT NULL, 
	adjust_lock TEXT DEFAULT ('') NOT NULL, 
	adjust_raises VARCHAR(200) DEFAULT ('') NOT NULL, 
	adjust_rate DOUBLE, 
	adjust_most_turns DOUBLE, 
	adjust_relieve BOOLEAN DEFAULT 0 NOT NULL, 
	version INTEGER DEFAULT '1' NOT NULL, 
	removed BOOLEAN DEFAULT 0 NOT NULL, storage TEXT DEFAULT '' NOT NULL, grip_matters BOOLEAN, second_unit VARCHAR(200) DEFAULT '' NOT NULL, corrects_adapter BOOLEAN DEFAULT 0 NOT NULL, head_length DOUBLE, zones TEXT DEFAULT '' NOT NULL, interval_school VARCHAR(200) DEFAULT '' NOT NULL, adjust_changes VARCHAR(200) DEFAULT '' NOT NULL, second_resolution DOUBLE, 
	CONSTRAINT pk_tool_model PRIMARY KEY (id), 
	CONSTRAINT uq_tool_model_maker UNIQUE (maker, name)
);
INSERT INTO "tool_model" VALUES('Skerrivane','X-50','II','A','click',10.0,50.0,0.5,'N.m','3/8 in','cw',0.24,0.0,NULL,NULL,NULL,'from below',1,'behind the cap','','cw',2.0,NULL,0,1,0,'',NULL,'',0,NULL,'','','',NULL);
INSERT INTO "tool_model" VALUES('Ottermoor','B-20','I','A','beam',NULL,20.0,0.2,'N.m','','both',NULL,0.0,NULL,NULL,NULL,'from below',2,'','','',NULL,NULL,0,1,0,'',NULL,'',0,NULL,'','','',NULL);
CREATE TABLE tool_standing (
	tool_id INTEGER NOT NULL, 
	state VARCHAR(200), 
	last_run DATE, 
	due_on DATE, 
	due_reason VARCHAR(200), 
	held TEXT NOT NULL, 
	check_event_id INTEGER, 
	restricted_low DOUBLE, 
	restricted_high DOUBLE, 
	lent_to TEXT NOT NULL, 
	lent_on DATE, 
	back_by DATE, 
	away_at TEXT NOT NULL, 
	away_since DATE, 
	away_until DATE, 
	kept TEXT NOT NULL, 
	retired BOOLEAN NOT NULL, 
	id INTEGER NOT NULL, cycles INTEGER DEFAULT '0' NOT NULL, interval_ends DATE, 
	CONSTRAINT pk_tool_standing PRIMARY KEY (id), 
	CONSTRAINT fk_tool_standing_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT fk_tool_standing_check_event_id_tool_event FOREIGN KEY(check_event_id) REFERENCES tool_event (id), 
	CONSTRAINT uq_tool_standing_tool_id UNIQUE (tool_id)
);
INSERT INTO "tool_standing" VALUES(1,'inside-near','2026-03-03','2027-03-03','calendar','from the bench',5,NULL,NULL,'Bay crew','2026-03-12','2026-03-20','',NULL,NULL,'',0,1,0,'2027-03-03');
INSERT INTO "tool_standing" VALUES(2,'outside','2026-03-04',NULL,NULL,'as found: Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much',4,NULL,NULL,'',NULL,NULL,'',NULL,NULL,'',0,2,0,NULL);
INSERT INTO "tool_standing" VALUES(3,'inside','2026-03-05','2027-03-05','calendar','',NULL,NULL,NULL,'',NULL,NULL,'',NULL,NULL,'',0,3,0,'2027-03-05');
CREATE TABLE "trace" (
	observation_id INTEGER NOT NULL, 
	rate DOUBLE NOT NULL, 
	samples BLOB NOT NULL, 
	faults TEXT NOT NULL, 
	over_travel DOUBLE, 
	time_80_to_100 DOUBLE, 
	id INTEGER NOT NULL, 
	CONSTRAINT pk_trace PRIMARY KEY (id), 
	CONSTRAINT fk_trace_observation_id_observation FOREIGN KEY(observation_id) REFERENCES observation (id), 
	CONSTRAINT uq_trace_observation_id UNIQUE (observation_id)
);
INSERT INTO "trace" VALUES(13,1000.0,X'00000000A2BC063FA2BC863FF31ACA3FA2BC0640CA6B2840F31A4A401BCA6B40A2BC864036949740CA6BA8405E43B940F31ACA4087F2DA401BCAEB40AFA1FC40A2BC06416C280F413694174100002041','["too fast", "jerk"]',0.05,0.3,1);
INSERT INTO "trace" VALUES(30,1000.0,X'00000000A2BC063FA2BC863FF31ACA3FA2BC0640CA6B2840F31A4A401BCA6B40A2BC864036949740CA6BA8405E43B940F31ACA4087F2DA401BCAEB40AFA1FC40A2BC06416C280F413694174100002041','["too fast", "jerk"]',0.05,0.3,2);
INSERT INTO "trace" VALUES(45,1000.0,X'00000000A2BC063FA2BC863FF31ACA3FA2BC0640CA6B2840F31A4A401BCA6B40A2BC864036949740CA6BA8405E43B940F31ACA4087F2DA401BCAEB40AFA1FC40A2BC06416C280F413694174100002041','["too fast", "jerk"]',0.05,0.3,3);
INSERT INTO "trace" VALUES(60,1000.0,X'00000000A2BC063FA2BC863FF31ACA3FA2BC0640CA6B2840F31A4A401BCA6B40A2BC864036949740CA6BA8405E43B940F31ACA4087F2DA401BCAEB40AFA1FC40A2BC06416C280F413694174100002041','["too fast", "jerk"]',0.05,0.3,4);
INSERT INTO "trace" VALUES(90,1000.0,X'00000000A2BC063FA2BC863FF31ACA3FA2BC0640CA6B2840F31A4A401BCA6B40A2BC864036949740CA6BA8405E43B940F31ACA4087F2DA401BCAEB40AFA1FC40A2BC06416C280F413694174100002041','["too fast", "jerk"]',0.05,0.3,5);
CREATE TABLE "zero_check" (
	run_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	moment VARCHAR(200) NOT NULL, 
	torque DOUBLE NOT NULL, 
	allowed DOUBLE NOT NULL, 
	id INTEGER NOT NULL, 
	series_id INTEGER, 
	"of" VARCHAR(200) DEFAULT 'reference' NOT NULL, observed INTEGER, 
	CONSTRAINT pk_zero_check PRIMARY KEY (id), 
	CONSTRAINT fk_zero_check_series_id_series FOREIGN KEY(series_id) REFERENCES series (id), 
	CONSTRAINT fk_zero_check_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "zero_check" VALUES(1,'2026-03-02 09:00:00.000000','before',0.0,0.05,1,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(1,'2026-03-02 09:06:00.000000','after',0.0,0.05,2,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:00:00.000000','before',0.0,0.05,3,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:05:00.000000','after',0.0,0.05,4,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:18:00.000000','after',0.0,0.05,5,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:35:00.000000','after',0.0,0.05,6,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(3,'2026-03-04 09:00:00.000000','before',0.0,0.05,7,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(3,'2026-03-04 09:05:00.000000','after',0.0,0.05,8,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:00:00.000000','before',0.0,0.05,9,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:00:00.000000','before',0.0,0.2,10,NULL,'pointer',NULL);
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:05:00.000000','after',0.0,0.05,11,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:05:00.000000','after',0.0,0.2,12,NULL,'pointer',NULL);
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:00:00.000000','before',0.0,0.05,13,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:00:00.000000','before',0.0,0.2,14,NULL,'pointer',NULL);
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:05:00.000000','after',0.0,0.05,15,NULL,'reference',NULL);
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:05:00.000000','after',0.0,0.2,16,NULL,'pointer',NULL);
INSERT INTO "zero_check" VALUES(6,'2026-03-14 09:00:00.000000','before',0.0,0.05,17,NULL,'reference',NULL);
CREATE INDEX ix_audit_at ON audit (at);
CREATE INDEX ix_audit_subject ON audit (subject);
CREATE INDEX ix_certificate_reference_id ON certificate (reference_id);
CREATE INDEX ix_certificate_point_certificate_id ON certificate_point (certificate_id);
CREATE INDEX ix_tool_event_tool_id ON tool_event (tool_id);
CREATE INDEX ix_exercise_pull_run_id ON exercise_pull (run_id);
CREATE INDEX ix_inspection_line_run_id ON inspection_line (run_id);
CREATE INDEX ix_room_reading_run_id ON room_reading (run_id);
CREATE INDEX ix_point_result_signature_id ON point_result (signature_id);
CREATE INDEX ix_adjustment_run_id ON adjustment (run_id);
CREATE INDEX ix_characterisation_run_id ON characterisation (run_id);
CREATE INDEX ix_characterisation_tool_id ON characterisation (tool_id);
CREATE INDEX ix_characterisation_model_id ON characterisation (model_id);
CREATE INDEX ix_tool_serial ON tool (serial);
CREATE INDEX ix_tool_model_id ON tool (model_id);
CREATE INDEX ix_run_facts_run_id ON run_facts (run_id);
CREATE INDEX ix_run_amends_id ON run (amends_id);
CREATE INDEX ix_run_tool_id ON run (tool_id);
CREATE INDEX ix_set_up_run_id ON set_up (run_id);
CREATE INDEX ix_series_run_id ON series (run_id);
CREATE INDEX ix_observation_series_id ON observation (series_id);
CREATE INDEX ix_observation_pull ON observation (pull);
CREATE INDEX ix_zero_check_series_id ON zero_check (series_id);
CREATE INDEX ix_zero_check_run_id ON zero_check (run_id);
CREATE INDEX ix_signing_key_person_id ON signing_key (person_id);
CREATE INDEX ix_tool_listing_plain_number ON tool_listing (plain_number);
CREATE INDEX ix_tool_listing_plain_serial ON tool_listing (plain_serial);
CREATE INDEX ix_tool_listing_order ON tool_listing (number, words, tool_id, due_on, held_back, lent);
CREATE INDEX ix_tool_listing_waits ON tool_listing (waits, due_on, number, tool_id);
CREATE INDEX ix_tool_listing_held_back ON tool_listing (held_back, number, tool_id);
CREATE INDEX ix_tool_listing_back_by ON tool_listing (back_by, number, tool_id);
CREATE INDEX ix_attachment_of_id ON attachment (of_id);
CREATE INDEX ix_tool_listing_due ON tool_listing (due_on, number, tool_id);
CREATE INDEX ix_tool_listing_place ON tool_listing (place, number, tool_id);
CREATE INDEX ix_tool_listing_kind ON tool_listing (kind, number, tool_id);
CREATE INDEX ix_tool_listing_full_scale ON tool_listing (full_scale, number, tool_id);
CREATE INDEX ix_cross_run_reference_id ON cross_run (reference_id);
CREATE INDEX ix_cross_reading_cross_run_id ON cross_reading (cross_run_id);
CREATE INDEX ix_cross_check_reference_id ON cross_check (reference_id);
CREATE INDEX ix_beam_scale_tool_id ON beam_scale (tool_id);
CREATE INDEX ix_beam_repeat_beam_scale_id ON beam_repeat (beam_scale_id);
CREATE INDEX ix_signature_at ON signature (at);
CREATE TRIGGER guard_abandonment_update BEFORE UPDATE ON abandonment BEGIN SELECT RAISE(ABORT, 'a record is never changed: abandonment'); END;
CREATE TRIGGER guard_abandonment_delete BEFORE DELETE ON abandonment BEGIN SELECT RAISE(ABORT, 'a record is never changed: abandonment'); END;
CREATE TRIGGER guard_adjustment_update BEFORE UPDATE ON adjustment BEGIN SELECT RAISE(ABORT, 'a record is never changed: adjustment'); END;
CREATE TRIGGER guard_adjustment_delete BEFORE DELETE ON adjustment BEGIN SELECT RAISE(ABORT, 'a record is never changed: adjustment'); END;
CREATE TRIGGER guard_audit_update BEFORE UPDATE ON audit BEGIN SELECT RAISE(ABORT, 'a record is never changed: audit'); END;
CREATE TRIGGER guard_audit_delete BEFORE DELETE ON audit BEGIN SELECT RAISE(ABORT, 'a record is never changed: audit'); END;
CREATE TRIGGER guard_beam_repeat_update BEFORE UPDATE ON beam_repeat BEGIN SELECT RAISE(ABORT, 'a record is never changed: beam_repeat'); END;
CREATE TRIGGER guard_beam_repeat_delete BEFORE DELETE ON beam_repeat BEGIN SELECT RAISE(ABORT, 'a record is never changed: beam_repeat'); END;
CREATE TRIGGER guard_beam_scale_update BEFORE UPDATE ON beam_scale BEGIN SELECT RAISE(ABORT, 'a record is never changed: beam_scale'); END;
CREATE TRIGGER guard_beam_scale_delete BEFORE DELETE ON beam_scale BEGIN SELECT RAISE(ABORT, 'a record is never changed: beam_scale'); END;
CREATE TRIGGER guard_certificate_update BEFORE UPDATE ON certificate BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate'); END;
CREATE TRIGGER guard_certificate_delete BEFORE DELETE ON certificate BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate'); END;
CREATE TRIGGER guard_certificate_point_update BEFORE UPDATE ON certificate_point BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate_point'); END;
CREATE TRIGGER guard_certificate_point_delete BEFORE DELETE ON certificate_point BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate_point'); END;
CREATE TRIGGER guard_chain_link_update BEFORE UPDATE ON chain_link BEGIN SELECT RAISE(ABORT, 'a record is never changed: chain_link'); END;
CREATE TRIGGER guard_chain_link_delete BEFORE DELETE ON chain_link BEGIN SELECT RAISE(ABORT, 'a record is never changed: chain_link'); END;
CREATE TRIGGER guard_characterisation_update BEFORE UPDATE ON characterisation BEGIN SELECT RAISE(ABORT, 'a record is never changed: characterisation'); END;
CREATE TRIGGER guard_characterisation_delete BEFORE DELETE ON characterisation BEGIN SELECT RAISE(ABORT, 'a record is never changed: characterisation'); END;
CREATE TRIGGER guard_content_update BEFORE UPDATE ON content BEGIN SELECT RAISE(ABORT, 'a record is never changed: content'); END;
CREATE TRIGGER guard_content_delete BEFORE DELETE ON content BEGIN SELECT RAISE(ABORT, 'a record is never changed: content'); END;
CREATE TRIGGER guard_cross_check_update BEFORE UPDATE ON cross_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_check'); END;
CREATE TRIGGER guard_cross_check_delete BEFORE DELETE ON cross_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_check'); END;
CREATE TRIGGER guard_cross_reading_update BEFORE UPDATE ON cross_reading BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_reading'); END;
CREATE TRIGGER guard_cross_reading_delete BEFORE DELETE ON cross_reading BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_reading'); END;
CREATE TRIGGER guard_cross_run_update BEFORE UPDATE ON cross_run BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_run'); END;
CREATE TRIGGER guard_cross_run_delete BEFORE DELETE ON cross_run BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_run'); END;
CREATE TRIGGER guard_cross_strike_update BEFORE UPDATE ON cross_strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_strike'); END;
CREATE TRIGGER guard_cross_strike_delete BEFORE DELETE ON cross_strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: cross_strike'); END;
CREATE TRIGGER guard_exercise_pull_update BEFORE UPDATE ON exercise_pull BEGIN SELECT RAISE(ABORT, 'a record is never changed: exercise_pull'); END;
CREATE TRIGGER guard_exercise_pull_delete BEFORE DELETE ON exercise_pull BEGIN SELECT RAISE(ABORT, 'a record is never changed: exercise_pull'); END;
CREATE TRIGGER guard_inspection_line_update BEFORE UPDATE ON inspection_line BEGIN SELECT RAISE(ABORT, 'a record is never changed: inspection_line'); END;
CREATE TRIGGER guard_inspection_line_delete BEFORE DELETE ON inspection_line BEGIN SELECT RAISE(ABORT, 'a record is never changed: inspection_line'); END;
CREATE TRIGGER guard_observation_update BEFORE UPDATE ON observation BEGIN SELECT RAISE(ABORT, 'a record is never changed: observation'); END;
CREATE TRIGGER guard_observation_delete BEFORE DELETE ON observation BEGIN SELECT RAISE(ABORT, 'a record is never changed: observation'); END;
CREATE TRIGGER guard_point_result_update BEFORE UPDATE ON point_result BEGIN SELECT RAISE(ABORT, 'a record is never changed: point_result'); END;
CREATE TRIGGER guard_point_result_delete BEFORE DELETE ON point_result BEGIN SELECT RAISE(ABORT, 'a record is never changed: point_result'); END;
CREATE TRIGGER guard_register_version_update BEFORE UPDATE ON register_version BEGIN SELECT RAISE(ABORT, 'a record is never changed: register_version'); END;
CREATE TRIGGER guard_register_version_delete BEFORE DELETE ON register_version BEGIN SELECT RAISE(ABORT, 'a record is never changed: register_version'); END;
CREATE TRIGGER guard_room_reading_update BEFORE UPDATE ON room_reading BEGIN SELECT RAISE(ABORT, 'a record is never changed: room_reading'); END;
CREATE TRIGGER guard_room_reading_delete BEFORE DELETE ON room_reading BEGIN SELECT RAISE(ABORT, 'a record is never changed: room_reading'); END;
CREATE TRIGGER guard_run_update BEFORE UPDATE ON run BEGIN SELECT RAISE(ABORT, 'a record is never changed: run'); END;
CREATE TRIGGER guard_run_delete BEFORE DELETE ON run BEGIN SELECT RAISE(ABORT, 'a record is never changed: run'); END;
CREATE TRIGGER guard_run_facts_update BEFORE UPDATE ON run_facts BEGIN SELECT RAISE(ABORT, 'a record is never changed: run_facts'); END;
CREATE TRIGGER guard_run_facts_delete BEFORE DELETE ON run_facts BEGIN SELECT RAISE(ABORT, 'a record is never changed: run_facts'); END;
CREATE TRIGGER guard_run_sides_update BEFORE UPDATE ON run_sides BEGIN SELECT RAISE(ABORT, 'a record is never changed: run_sides'); END;
CREATE TRIGGER guard_run_sides_delete BEFORE DELETE ON run_sides BEGIN SELECT RAISE(ABORT, 'a record is never changed: run_sides'); END;
CREATE TRIGGER guard_seal_update BEFORE UPDATE ON seal BEGIN SELECT RAISE(ABORT, 'a record is never changed: seal'); END;
CREATE TRIGGER guard_seal_delete BEFORE DELETE ON seal BEGIN SELECT RAISE(ABORT, 'a record is never changed: seal'); END;
CREATE TRIGGER guard_series_update BEFORE UPDATE ON series BEGIN SELECT RAISE(ABORT, 'a record is never changed: series'); END;
CREATE TRIGGER guard_series_delete BEFORE DELETE ON series BEGIN SELECT RAISE(ABORT, 'a record is never changed: series'); END;
CREATE TRIGGER guard_set_up_update BEFORE UPDATE ON set_up BEGIN SELECT RAISE(ABORT, 'a record is never changed: set_up'); END;
CREATE TRIGGER guard_set_up_delete BEFORE DELETE ON set_up BEGIN SELECT RAISE(ABORT, 'a record is never changed: set_up'); END;
CREATE TRIGGER guard_signature_update BEFORE UPDATE ON signature BEGIN SELECT RAISE(ABORT, 'a record is never changed: signature'); END;
CREATE TRIGGER guard_signature_delete BEFORE DELETE ON signature BEGIN SELECT RAISE(ABORT, 'a record is never changed: signature'); END;
CREATE TRIGGER guard_signing_key_update BEFORE UPDATE ON signing_key BEGIN SELECT RAISE(ABORT, 'a record is never changed: signing_key'); END;
CREATE TRIGGER guard_signing_key_delete BEFORE DELETE ON signing_key BEGIN SELECT RAISE(ABORT, 'a record is never changed: signing_key'); END;
CREATE TRIGGER guard_strike_update BEFORE UPDATE ON strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: strike'); END;
CREATE TRIGGER guard_strike_delete BEFORE DELETE ON strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: strike'); END;
CREATE TRIGGER guard_tool_event_update BEFORE UPDATE ON tool_event BEGIN SELECT RAISE(ABORT, 'a record is never changed: tool_event'); END;
CREATE TRIGGER guard_tool_event_delete BEFORE DELETE ON tool_event BEGIN SELECT RAISE(ABORT, 'a record is never changed: tool_event'); END;
CREATE TRIGGER guard_trace_update BEFORE UPDATE ON trace BEGIN SELECT RAISE(ABORT, 'a record is never changed: trace'); END;
CREATE TRIGGER guard_trace_delete BEFORE DELETE ON trace BEGIN SELECT RAISE(ABORT, 'a record is never changed: trace'); END;
CREATE TRIGGER guard_zero_check_update BEFORE UPDATE ON zero_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: zero_check'); END;
CREATE TRIGGER guard_zero_check_delete BEFORE DELETE ON zero_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: zero_check'); END;
COMMIT;
