"""What a reverb is built of: attenuation that sets decay times, and the network itself."""
