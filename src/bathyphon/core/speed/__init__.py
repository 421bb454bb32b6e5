"""Speed and pitch: stretching, shifting, resampling."""
