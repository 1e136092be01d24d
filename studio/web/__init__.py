"""What stands between the network and the views."""
