package app.granary.server.mail;

import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;

interface MailRepository extends JpaRepository<Mail, Long> {
    List<Mail> findAllByOrderByIdDesc(Limit limit);
}
