"""What leaves the screen: sheets for paper, the same as PDF files, and a job to carry on a phone."""
