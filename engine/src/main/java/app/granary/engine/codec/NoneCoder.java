package app.granary.engine.codec;

final class NoneCoder implements FrameCoder {
    @Override
    public int encode(byte[] chunk, int length, byte[] frame) {
        System.arraycopy(chunk, 0, frame, 0, length);
        return length;
    }

    @Override
    public void decode(byte[] frame, int frameLength, byte[] chunk, int length) throws BadFrameException {
        if (frameLength != length) {
            throw new BadFrameException("it holds " + frameLength + " bytes instead of " + length);
        }
        System.arraycopy(frame, 0, chunk, 0, length);
    }
}
