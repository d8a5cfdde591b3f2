-- The server that carries the office's mail; its password is enciphered by a key in a file of its own.
create table mail_server (
    id integer primary key,
    host varchar(255) not null,
    port integer not null,
    security varchar(20) not null,
    account varchar(255) not null,
    secret varchar(4000) not null,
    sender varchar(255) not null,
    version bigint not null
);
