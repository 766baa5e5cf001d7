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
INSERT INTO "alembic_version" VALUES('0003');
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
	removed BOOLEAN DEFAULT 0 NOT NULL, 
	CONSTRAINT pk_person PRIMARY KEY (id), 
	CONSTRAINT uq_person_initials UNIQUE (initials)
);
INSERT INTO "person" VALUES('K. L.','K. Loft',1,1,1,0);
INSERT INTO "person" VALUES('M. T.','M. Tarn',0,2,1,0);
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
	id INTEGER NOT NULL, near_zone DOUBLE DEFAULT '0' NOT NULL, 
	CONSTRAINT pk_point_result PRIMARY KEY (id), 
	CONSTRAINT fk_point_result_series_id_series FOREIGN KEY(series_id) REFERENCES series (id), 
	CONSTRAINT fk_point_result_signature_id_signature FOREIGN KEY(signature_id) REFERENCES signature (id)
);
INSERT INTO "point_result" VALUES(2,7,10.0,'cw',7.41788980993327573543e-02,7.52688172043010084166e-02,3.69182067867504584701e-02,8.47457627118644151592e-04,3.20415545859457848165e-02,'outside-near',1,0.0377656644138691);
INSERT INTO "point_result" VALUES(2,8,30.0,'cw',7.41954802221364700942e-02,7.52688172043010084166e-02,1.29003876828668387344e-02,5.08474576271186447587e-04,5.74383745607506156259e-08,'outside',2,1.34088622591380258325e-02);
INSERT INTO "point_result" VALUES(2,9,50.0,'cw',7.39806412976202337761e-02,7.52688172043010084166e-02,8.39052542262269836215e-03,1.69491525423728852002e-04,2.7532768426522128012e-16,'outside',3,8.56001694804642797309e-03);
INSERT INTO "point_result" VALUES(2,11,10.0,'cw',9.29413939756900189803e-03,1.01010101010101660534e-02,3.47181667734226193089e-02,8.47457627118644151592e-04,9.59283745207043625491e-01,'inside-near',4,3.55656244005412638942e-02);
INSERT INTO "point_result" VALUES(2,12,30.0,'cw',9.09272384503747622963e-03,1.01010101010101660534e-02,1.21997387326452030875e-02,5.08474576271186447587e-04,0.999999797800273,'inside',5,1.27082133089163901856e-02);
INSERT INTO "point_result" VALUES(2,13,50.0,'cw',0.0088909054614009,1.01010101010101660534e-02,8.00452061135655673629e-03,1.69491525423728852002e-04,9.99999999999996114219e-01,'inside',6,8.17401213678028634723e-03);
INSERT INTO "point_result" VALUES(3,14,10.0,'cw',1.10223553337325877454e-01,1.11111111111111160454e-01,3.23130381903617633354e-02,8.47457627118644151592e-04,6.91782926975816505167e-06,'outside',7,3.31604958174804079207e-02);
INSERT INTO "point_result" VALUES(3,15,30.0,'cw',1.10001996229541182392e-01,1.11111111111111160454e-01,1.14423597794225274243e-02,5.08474576271186447587e-04,1.00324082234085127426e-34,'outside',8,1.19508343556937145224e-02);
INSERT INTO "point_result" VALUES(3,16,50.0,'cw',1.09779996007540958657e-01,1.11111111111111160454e-01,7.59136057117930709847e-03,1.69491525423728852002e-04,8.81420136129829441019e-76,'outside',9,7.76085209660303584205e-03);
INSERT INTO "point_result" VALUES(4,17,4.0,'cw',-1.0691883164759153485e-02,1.18772356277543345015e-02,4.06179010362619219431e-02,9.49152542372881397741e-04,9.92156814500832151537e-01,'inside',10,4.15670535786348063767e-02);
INSERT INTO "point_result" VALUES(4,18,12.0,'cw',-1.08893102905080144809e-02,1.18772356277545565461e-02,1.40783041001469547831e-02,8.13559322033898294455e-04,0.99999999999849,'inside',11,1.48918634221808527523e-02);
INSERT INTO "point_result" VALUES(4,19,20.0,'cw',-1.10871322705080824905e-02,1.18772356277544455238e-02,9.04636161739587676966e-03,6.7796610169491529959e-04,1.0,'inside',12,9.72432771909079174399e-03);
INSERT INTO "point_result" VALUES(4,20,4.0,'ccw',-1.0691883164759153485e-02,1.18772356277543345015e-02,4.06179010362619219431e-02,9.49152542372881397741e-04,9.92156814500832151537e-01,'inside',13,4.15670535786348063767e-02);
INSERT INTO "point_result" VALUES(4,21,12.0,'ccw',-1.08893102905080144809e-02,1.18772356277545565461e-02,1.40783041001469547831e-02,8.13559322033898294455e-04,0.99999999999849,'inside',14,1.48918634221808527523e-02);
INSERT INTO "point_result" VALUES(4,22,20.0,'ccw',-1.10871322705080824905e-02,1.18772356277544455238e-02,9.04636161739587676966e-03,6.7796610169491529959e-04,1.0,'inside',15,9.72432771909079174399e-03);
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
	kind VARCHAR(200) DEFAULT 'meter' NOT NULL, 
	CONSTRAINT pk_reference PRIMARY KEY (id), 
	CONSTRAINT uq_reference_number UNIQUE (number)
);
INSERT INTO "reference" VALUES('M-1','M1','','',1.0,60.0,0.01,0.05,0,'stand-in',1,1,0,'meter');
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
	sequence INTEGER DEFAULT '0' NOT NULL, 
	CONSTRAINT pk_signature PRIMARY KEY (id), 
	CONSTRAINT fk_signature_run_id_run FOREIGN KEY(run_id) REFERENCES run (id), 
	CONSTRAINT fk_signature_second_person_id_person FOREIGN KEY(second_person_id) REFERENCES person (id), 
	CONSTRAINT fk_signature_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT uq_signature_run_id UNIQUE (run_id)
);
INSERT INTO "signature" VALUES(1,'2026-03-02 09:12:00.000000',1,'outside-near',0,'Adapter positions 0.30 N·m, loading point 0.100 N·m at 10 N·m','every-reading',0.04,NULL,NULL,1,'','characterised',NULL,1);
INSERT INTO "signature" VALUES(2,'2026-03-03 09:42:00.000000',1,'inside-near',1,'Clicks 1.0 % below its setting at 10 N·m; inside, near the fence, 3.0 % to spare','every-reading',0.04,'2027-03-03','calendar',2,'','released',NULL,3);
INSERT INTO "signature" VALUES(3,'2026-03-04 10:00:00.000000',1,'outside',0,'Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much','every-reading',0.04,NULL,NULL,3,'','held',NULL,2);
INSERT INTO "signature" VALUES(4,'2026-03-05 10:00:00.000000',1,'inside',1,'Delivers 1.2 % more than it shows at 12 N·m; inside, 4.8 % to spare','every-reading',0.06,'2027-03-05','calendar',4,'as every year','released',NULL,1);
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
	removed BOOLEAN DEFAULT 0 NOT NULL, 
	CONSTRAINT pk_tool PRIMARY KEY (id), 
	CONSTRAINT uq_tool_number UNIQUE (number), 
	CONSTRAINT fk_tool_model_id_tool_model FOREIGN KEY(model_id) REFERENCES tool_model (id)
);
INSERT INTO "tool" VALUES('W-1','17',1,'Bay 4','iso-6789-2017',NULL,0,NULL,1,2,0);
INSERT INTO "tool" VALUES('W-2','',1,'','iso-6789-2017',NULL,0,NULL,2,1,0);
INSERT INTO "tool" VALUES('B-1','',2,'','iso-6789-2017',NULL,0,NULL,3,1,0);
CREATE TABLE tool_event (
	tool_id INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	person_id INTEGER, 
	kind VARCHAR(200) NOT NULL, 
	note TEXT NOT NULL, 
	due_back DATE, 
	id INTEGER NOT NULL, low DOUBLE, high DOUBLE, sequence INTEGER DEFAULT '0' NOT NULL, 
	CONSTRAINT pk_tool_event PRIMARY KEY (id), 
	CONSTRAINT fk_tool_event_person_id_person FOREIGN KEY(person_id) REFERENCES person (id), 
	CONSTRAINT fk_tool_event_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id)
);
INSERT INTO "tool_event" VALUES(1,'2026-03-03 09:42:00.000000',1,'adjusted','by K. L.',NULL,1,NULL,NULL,2);
INSERT INTO "tool_event" VALUES(2,'2026-03-04 10:00:00.000000',1,'held','as found: Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much',NULL,2,NULL,NULL,1);
INSERT INTO "tool_event" VALUES(1,'2026-03-12 09:00:00.000000',1,'lent','Bay crew','2026-03-20',3,NULL,NULL,4);
INSERT INTO "tool_event" VALUES(2,'2026-03-13 09:00:00.000000',NULL,'lock loose','creeps',NULL,4,NULL,NULL,3);
INSERT INTO "tool_event" VALUES(1,'2026-11-24 18:30:00.000000',1,'fell','from the bench',NULL,5,NULL,NULL,5);
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
	removed BOOLEAN DEFAULT 0 NOT NULL, 
	CONSTRAINT pk_tool_model PRIMARY KEY (id), 
	CONSTRAINT uq_tool_model_maker UNIQUE (maker, name)
);
INSERT INTO "tool_model" VALUES('Skerrivane','X-50','II','A','click',10.0,50.0,0.5,'N.m','3/8 in','cw',0.24,0.0,NULL,NULL,NULL,'from below',1,'behind the cap','','cw',2.0,NULL,0,1,0);
INSERT INTO "tool_model" VALUES('Ottermoor','B-20','I','A','beam',NULL,20.0,0.2,'N.m','','both',NULL,0.0,NULL,NULL,NULL,'from below',2,'','','',NULL,NULL,0,1,0);
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
	id INTEGER NOT NULL, 
	CONSTRAINT pk_tool_standing PRIMARY KEY (id), 
	CONSTRAINT fk_tool_standing_tool_id_tool FOREIGN KEY(tool_id) REFERENCES tool (id), 
	CONSTRAINT fk_tool_standing_check_event_id_tool_event FOREIGN KEY(check_event_id) REFERENCES tool_event (id), 
	CONSTRAINT uq_tool_standing_tool_id UNIQUE (tool_id)
);
INSERT INTO "tool_standing" VALUES(1,'inside-near','2026-03-03','2027-03-03','calendar','from the bench',5,NULL,NULL,'Bay crew','2026-03-12','2026-03-20','',NULL,NULL,'',0,1);
INSERT INTO "tool_standing" VALUES(2,'outside','2026-03-04',NULL,NULL,'as found: Clicks 10.0 % below its setting at 10 N·m; outside, 7.1 % too much',4,NULL,NULL,'',NULL,NULL,'',NULL,NULL,'',0,2);
INSERT INTO "tool_standing" VALUES(3,'inside','2026-03-05','2027-03-05','calendar','',NULL,NULL,NULL,'',NULL,NULL,'',NULL,NULL,'',0,3);
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
	"of" VARCHAR(200) DEFAULT 'reference' NOT NULL, 
	CONSTRAINT pk_zero_check PRIMARY KEY (id), 
	CONSTRAINT fk_zero_check_series_id_series FOREIGN KEY(series_id) REFERENCES series (id), 
	CONSTRAINT fk_zero_check_run_id_run FOREIGN KEY(run_id) REFERENCES run (id)
);
INSERT INTO "zero_check" VALUES(1,'2026-03-02 09:00:00.000000','before',0.0,0.05,1,NULL,'reference');
INSERT INTO "zero_check" VALUES(1,'2026-03-02 09:06:00.000000','after',0.0,0.05,2,NULL,'reference');
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:00:00.000000','before',0.0,0.05,3,NULL,'reference');
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:05:00.000000','after',0.0,0.05,4,NULL,'reference');
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:18:00.000000','after',0.0,0.05,5,NULL,'reference');
INSERT INTO "zero_check" VALUES(2,'2026-03-03 09:35:00.000000','after',0.0,0.05,6,NULL,'reference');
INSERT INTO "zero_check" VALUES(3,'2026-03-04 09:00:00.000000','before',0.0,0.05,7,NULL,'reference');
INSERT INTO "zero_check" VALUES(3,'2026-03-04 09:05:00.000000','after',0.0,0.05,8,NULL,'reference');
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:00:00.000000','before',0.0,0.05,9,NULL,'reference');
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:00:00.000000','before',0.0,0.2,10,NULL,'pointer');
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:05:00.000000','after',0.0,0.05,11,NULL,'reference');
INSERT INTO "zero_check" VALUES(4,'2026-03-05 09:05:00.000000','after',0.0,0.2,12,NULL,'pointer');
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:00:00.000000','before',0.0,0.05,13,NULL,'reference');
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:00:00.000000','before',0.0,0.2,14,NULL,'pointer');
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:05:00.000000','after',0.0,0.05,15,NULL,'reference');
INSERT INTO "zero_check" VALUES(5,'2026-03-05 09:05:00.000000','after',0.0,0.2,16,NULL,'pointer');
INSERT INTO "zero_check" VALUES(6,'2026-03-14 09:00:00.000000','before',0.0,0.05,17,NULL,'reference');
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
CREATE TRIGGER guard_abandonment_update BEFORE UPDATE ON abandonment BEGIN SELECT RAISE(ABORT, 'a record is never changed: abandonment'); END;
CREATE TRIGGER guard_abandonment_delete BEFORE DELETE ON abandonment BEGIN SELECT RAISE(ABORT, 'a record is never changed: abandonment'); END;
CREATE TRIGGER guard_adjustment_update BEFORE UPDATE ON adjustment BEGIN SELECT RAISE(ABORT, 'a record is never changed: adjustment'); END;
CREATE TRIGGER guard_adjustment_delete BEFORE DELETE ON adjustment BEGIN SELECT RAISE(ABORT, 'a record is never changed: adjustment'); END;
CREATE TRIGGER guard_audit_update BEFORE UPDATE ON audit BEGIN SELECT RAISE(ABORT, 'a record is never changed: audit'); END;
CREATE TRIGGER guard_audit_delete BEFORE DELETE ON audit BEGIN SELECT RAISE(ABORT, 'a record is never changed: audit'); END;
CREATE TRIGGER guard_certificate_update BEFORE UPDATE ON certificate BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate'); END;
CREATE TRIGGER guard_certificate_delete BEFORE DELETE ON certificate BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate'); END;
CREATE TRIGGER guard_certificate_point_update BEFORE UPDATE ON certificate_point BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate_point'); END;
CREATE TRIGGER guard_certificate_point_delete BEFORE DELETE ON certificate_point BEGIN SELECT RAISE(ABORT, 'a record is never changed: certificate_point'); END;
CREATE TRIGGER guard_characterisation_update BEFORE UPDATE ON characterisation BEGIN SELECT RAISE(ABORT, 'a record is never changed: characterisation'); END;
CREATE TRIGGER guard_characterisation_delete BEFORE DELETE ON characterisation BEGIN SELECT RAISE(ABORT, 'a record is never changed: characterisation'); END;
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
CREATE TRIGGER guard_series_update BEFORE UPDATE ON series BEGIN SELECT RAISE(ABORT, 'a record is never changed: series'); END;
CREATE TRIGGER guard_series_delete BEFORE DELETE ON series BEGIN SELECT RAISE(ABORT, 'a record is never changed: series'); END;
CREATE TRIGGER guard_set_up_update BEFORE UPDATE ON set_up BEGIN SELECT RAISE(ABORT, 'a record is never changed: set_up'); END;
CREATE TRIGGER guard_set_up_delete BEFORE DELETE ON set_up BEGIN SELECT RAISE(ABORT, 'a record is never changed: set_up'); END;
CREATE TRIGGER guard_signature_update BEFORE UPDATE ON signature BEGIN SELECT RAISE(ABORT, 'a record is never changed: signature'); END;
CREATE TRIGGER guard_signature_delete BEFORE DELETE ON signature BEGIN SELECT RAISE(ABORT, 'a record is never changed: signature'); END;
CREATE TRIGGER guard_strike_update BEFORE UPDATE ON strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: strike'); END;
CREATE TRIGGER guard_strike_delete BEFORE DELETE ON strike BEGIN SELECT RAISE(ABORT, 'a record is never changed: strike'); END;
CREATE TRIGGER guard_tool_event_update BEFORE UPDATE ON tool_event BEGIN SELECT RAISE(ABORT, 'a record is never changed: tool_event'); END;
CREATE TRIGGER guard_tool_event_delete BEFORE DELETE ON tool_event BEGIN SELECT RAISE(ABORT, 'a record is never changed: tool_event'); END;
CREATE TRIGGER guard_trace_update BEFORE UPDATE ON trace BEGIN SELECT RAISE(ABORT, 'a record is never changed: trace'); END;
CREATE TRIGGER guard_trace_delete BEFORE DELETE ON trace BEGIN SELECT RAISE(ABORT, 'a record is never changed: trace'); END;
CREATE TRIGGER guard_zero_check_update BEFORE UPDATE ON zero_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: zero_check'); END;
CREATE TRIGGER guard_zero_check_delete BEFORE DELETE ON zero_check BEGIN SELECT RAISE(ABORT, 'a record is never changed: zero_check'); END;
COMMIT;
