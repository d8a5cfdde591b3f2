package app.granary.server.mail;

import org.springframework.data.jpa.repository.JpaRepository;

interface MailServerRepository extends JpaRepository<MailServer, Integer> {
}
