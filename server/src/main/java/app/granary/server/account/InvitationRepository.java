package app.granary.server.account;

import org.springframework.data.jpa.repository.JpaRepository;

interface InvitationRepository extends JpaRepository<Invitation, String> {
}
