import Form from "react-bootstrap/Form";

/** A password of one's own choosing, with what is accepted. */
export function PasswordField({ id, value, onChange }: { id: string; value: string; onChange: (typed: string) => void }) {
  return (
    <Form.Group className="mb-3" controlId={id}>
      <Form.Label>Password</Form.Label>
      <Form.Control type="password" autoComplete="new-password" required value={value} onChange={(e) => onChange(e.target.value)} />
      <Form.Text>At least 10 characters. Four words are a good password.</Form.Text>
    </Form.Group>
  );
}
